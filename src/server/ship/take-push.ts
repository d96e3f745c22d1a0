import { createHash } from "node:crypto";
import { inArray, sql } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import { closedBy, ITEM_KEY } from "@/core/ship/closing-words";
import type { BranchNews, PushNews } from "@/core/ship/code-event";
import { keysNamed } from "@/core/ship/keys-named";
import { revertedBy } from "@/core/ship/reverted";
import { shortHash } from "@/core/ship/short-hash";
import type { Transaction } from "@/db/connection";
import { codeActed, codeBranch, codeCommit, project } from "@/db/schema";
import { projectsOfSource } from "../events/speakers";
import { itemsNamed } from "../item/items-named";
import { markLeftBehind, markOnMain, markReverted, type CommitRow } from "./commit-graph";
import { itemsOfBranch, itemsOfCode, linkCode, type CodeLink, type Told } from "./item-code";
import { itemsOfCommits, tellItemsPresence } from "./presence";
import { standOn } from "./standing";
import { readOnce, type Taking } from "./taking";
import { followBranch, mergedInto } from "./take-change";

/** Takes in that a branch appeared, or is gone. */
export async function takeBranch(taking: Taking, news: BranchNews): Promise<Told[]> {
  await storeBranch(taking, news, { goneAt: news.gone ? news.at : null });
  return news.gone ? [] : workBegun(taking, news.branch, keysNamed([news.branch]), []);
}

/** Stores what is known of a branch, unless something newer is known of it. */
async function storeBranch(
  { tx, repositoryId }: Taking,
  { branch, at, by, url }: BranchNews | PushNews,
  known: Partial<typeof codeBranch.$inferInsert>,
): Promise<void> {
  const row = {
    repositoryId,
    name: branch,
    firstAt: at,
    toldAt: at,
    pushedByName: by?.name,
    pushedByMail: by?.mail,
    // What is not said again holds still.
    ...(url === null ? {} : { url }),
    ...known,
  };
  const { firstAt: _first, repositoryId: _id, name: _name, ...newer } = row;
  const isNewer = sql`excluded.told_at >= ${codeBranch.toldAt}`;
  const names = Object.keys(newer).filter(
    (name) => newer[name as keyof typeof newer] !== undefined,
  );
  const changes = names.map((name) => {
    const column = codeBranch[name as keyof typeof newer];
    const given = sql.identifier(column.name);
    return [name, sql`case when ${isNewer} then excluded.${given} else ${column} end`];
  });
  await tx
    .insert(codeBranch)
    .values(row)
    .onConflictDoUpdate({
      target: [codeBranch.repositoryId, codeBranch.name],
      set: {
        ...Object.fromEntries(changes),
        firstAt: sql`least(${codeBranch.firstAt}, excluded.first_at)`,
      },
    });
}

/** What came of an event: what items are to be told, and the items whose pages show it. */
export interface Taken {
  told: Told[];
  itemIds: Iterable<string>;
}

/**
 * Takes in what was pushed: commits, what they belong to, and on main what they say is done or take
 * back. What is on main already is not shown anew by a push to it.
 */
export async function takePush(taking: Taking, news: PushNews): Promise<Taken> {
  const { tx, source, repositoryId } = taking;
  const { branch, main, head, at } = news;
  await storeBranch(taking, news, { head, main, pushedAt: at, goneAt: null });
  const fresh = await storeCommits(taking, news);
  const keys = new Map(fresh.map(({ hash, message }) => [hash, keysNamed([message])]));
  const named = await itemsNamed(tx, source.projectIds, [...keys.values()].flat());
  const links = fresh.flatMap(({ hash }): CodeLink[] =>
    keys
      .get(hash)!
      .flatMap((key) => named.get(key) ?? [])
      .map((itemId) => ({ itemId, repositoryId, kind: "commit", name: hash })),
  );
  const moved = fresh.length > 0 ? await standOn(tx, repositoryId) : [];
  if (!main) {
    if (news.forced) await markLeftBehind(tx, repositoryId, { branch, head, at });
    const begun = await workBegun(taking, branch, keysNamed([branch]), links);
    const told = [...begun, ...(await followBranch(taking, { branch, head, at }))];
    return { told, itemIds: await itemsOfBranch(tx, repositoryId, branch) };
  }
  await linkCode(tx, links);
  const merged = await markOnMain(tx, repositoryId, head, at);
  const { told, takenBack } = await actOnMain(taking, merged);
  const hashes = [...fresh, ...merged].map(({ hash }) => hash);
  const itemIds = await itemsOfCommits(tx, repositoryId, [...hashes, ...moved, ...takenBack]);
  return { told: [...told, ...(await tellItemsPresence(taking, itemIds))], itemIds };
}

async function storeCommits(
  { tx, repositoryId }: Taking,
  { commits, branch, at }: PushNews,
): Promise<{ hash: string; message: string }[]> {
  if (commits.length === 0) return [];
  const rows = commits.map(({ author, size, ...commit }) => ({
    ...commit,
    ...size,
    repositoryId,
    branch,
    pushedAt: at,
    authorName: author.name,
    authorMail: author.mail,
  }));
  return tx
    .insert(codeCommit)
    .values(rows)
    .onConflictDoNothing()
    .returning({ hash: codeCommit.hash, message: codeCommit.message });
}

/** Links a branch and its commits; those for which nothing was on it before are told of it. */
async function workBegun(
  { tx, source, repositoryId }: Taking,
  branch: string,
  keys: readonly string[],
  links: readonly CodeLink[],
): Promise<Told[]> {
  const before = await itemsOfBranch(tx, repositoryId, branch);
  const named = await itemsNamed(tx, source.projectIds, keys);
  const ofBranch = [...new Set(named.values())].map((itemId): CodeLink => ({
    itemId,
    repositoryId,
    kind: "branch",
    name: branch,
  }));
  const linked = await linkCode(tx, [...ofBranch, ...links]);
  const begun = new Set(linked.map(({ itemId }) => itemId).filter((id) => !before.has(id)));
  return [...begun].map((itemId) => ({ itemId, fact: { kind: "work pushed" } }));
}

/** What commits that are new on main say by their words. */
async function actOnMain(
  taking: Taking,
  commits: readonly CommitRow[],
): Promise<{ told: Told[]; takenBack: string[] }> {
  const { tx, repositoryId, now } = taking;
  const told: Told[] = [];
  const takenBack: string[] = [];
  if (commits.length === 0) return { told, takenBack };
  const projects = await readOnce(taking, "closing words", () => closingOf(taking));
  for (const { hash, message, authorMail, authoredAt } of commits) {
    // What was written before anybody listened is history: it is shown, and does nothing any more.
    const listening = projects.filter(({ since }) => authoredAt >= since);
    if (listening.length === 0) continue;
    const closed = listening.flatMap(({ id, words }) =>
      closedBy(message, { words, key: ITEM_KEY }).map((key) => ({ id, key: key.toUpperCase() })),
    );
    const back = revertedBy(message);
    if (closed.length === 0 && back.length === 0) continue;
    const work = createHash("sha256")
      .update(JSON.stringify([authorMail, authoredAt, message.trim()]))
      .digest("hex");
    const [first] = await tx
      .insert(codeActed)
      .values({ repositoryId, work, at: now })
      .onConflictDoNothing()
      .returning();
    if (!first) continue;
    const commit = shortHash(hash);
    for (const itemId of await itemsClosed(tx, closed))
      told.push({ itemId, fact: { kind: "commit says done", commit } });
    const reverted = await markReverted(tx, repositoryId, back, hash);
    takenBack.push(...reverted.hashes);
    told.push(...(await tellTakenBack(tx, repositoryId, reverted.called)));
  }
  return { told, takenBack };
}

/** The projects that a source speaks for, with the words by which a commit closes an item of theirs. */
async function closingOf({ tx, source }: Taking) {
  const spokenFor = await projectsOfSource(tx, source.id);
  const rows = await tx
    .select({ id: project.id, words: project.closingWords })
    .from(project)
    .where(inArray(project.id, [...source.projectIds]));
  const words = new Map(rows.map((row) => [row.id, row.words]));
  return spokenFor.map(({ id, since }) => ({ id, since, words: words.get(id) ?? [] }));
}

/** The items that a message closes: those of a project by its own words. */
async function itemsClosed(
  tx: Transaction,
  closed: readonly { id: string; key: string }[],
): Promise<Set<string>> {
  const items = new Set<string>();
  for (const [projectId, own] of grouped(closed, ({ id }) => id)) {
    const keys = own.map(({ key }) => key);
    for (const id of (await itemsNamed(tx, [projectId], keys)).values()) items.add(id);
  }
  return items;
}

/** Items for which something was done that is taken back. */
async function tellTakenBack(
  tx: Transaction,
  repositoryId: string,
  commits: readonly CommitRow[],
): Promise<Told[]> {
  const told: Told[] = [];
  for (const { hash, branch } of commits) {
    const own = await itemsOfCode(tx, repositoryId, "commit", [hash]);
    const ofBranch = await itemsOfCode(tx, repositoryId, "branch", [branch]);
    const ofChange = await itemsOfCode(
      tx,
      repositoryId,
      "change",
      await mergedInto(tx, repositoryId, hash),
    );
    const items = new Set([...own, ...ofBranch, ...ofChange].map(({ itemId }) => itemId));
    for (const itemId of items)
      told.push({ itemId, fact: { kind: "commit reverted", commit: shortHash(hash) } });
  }
  return told;
}
