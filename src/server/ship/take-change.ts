import { and, asc, eq, sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import type { OutsideFact } from "@/core/item/outside";
import type { ChangeNews, ReviewNews } from "@/core/ship/code-event";
import { keysNamed } from "@/core/ship/keys-named";
import type { Transaction } from "@/db/connection";
import { codeChange, codeReview } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { itemsNamed } from "../item/items-named";
import { itemsOfBranch, itemsOfCode, linkCode, type CodeLink, type Told } from "./item-code";
import type { Taking } from "./taking";

type ChangeRow = typeof codeChange.$inferSelect;

/** Takes in that a change was proposed, is different, was merged or given up. */
export async function takeChange(taking: Taking, news: ChangeNews): Promise<Told[]> {
  const before = await changeNamed(taking, news.change);
  const after = await storeChange(taking, before, news);
  const fresh = await linkChange(taking, after, news.items);
  const told = await toldFresh(taking, after, fresh);
  const became = news.status === null ? null : STATUS_FACT[news.status];
  const isNew = before?.status !== after.status && after.status === news.status;
  const knew = ({ itemId }: Told) => !fresh.includes(itemId);
  if (became && became !== "change opened" && isNew)
    told.push(...(await toldAll(taking, after, { kind: became, change: after.name })).filter(knew));
  else if (before && before.head !== null && after.head !== before.head)
    told.push(...(await toldOthers(taking, after, fresh)));
  return told;
}

const STATUS_FACT = {
  open: "change opened",
  merged: "change merged",
  abandoned: "change abandoned",
} as const;

/**
 * All that is known of a change, to items that it belongs to since now: it may have been looked at, or
 * merged, before anybody knew what it is about.
 */
async function toldFresh(
  { tx }: Taking,
  change: ChangeRow,
  items: readonly string[],
): Promise<Told[]> {
  if (items.length === 0) return [];
  const reviews = await tx
    .select()
    .from(codeReview)
    .where(eq(codeReview.changeId, change.id))
    .orderBy(asc(codeReview.at));
  const last = reviews.filter(({ head }) => isOf(change, head)).at(-1);
  const kinds = [
    "change opened" as const,
    ...(change.checks ? [CHECKS_FACT[change.checks]] : []),
    ...(last ? [REVIEW_FACT[last.verdict]] : []),
    ...(change.status === "open" ? [] : [STATUS_FACT[change.status]]),
  ];
  return items.flatMap((itemId) =>
    kinds.map((kind): Told => ({ itemId, fact: { kind, change: change.name } })),
  );
}

const CHECKS_FACT = {
  running: "checks started",
  passed: "checks passed",
  failed: "checks failed",
} as const;

const REVIEW_FACT = { approved: "review approved", "sent back": "review sent back" } as const;

/** Whether something was said of what a change ends with now; where nobody knows, it was. */
const isOf = (change: ChangeRow, head: string | null): boolean =>
  head === null || change.head === null || head === change.head;

/** The same for all items of a change. */
async function toldAll(taking: Taking, change: ChangeRow, fact: OutsideFact): Promise<Told[]> {
  const items = await itemsOfCode(taking.tx, change.repositoryId, "change", [change.name]);
  return items.map(({ itemId }) => ({ itemId, fact }));
}

/** That it has other commits, to those that knew it before. */
async function toldOthers(
  taking: Taking,
  change: ChangeRow,
  fresh: readonly string[],
): Promise<Told[]> {
  const all = await toldAll(taking, change, { kind: "change updated", change: change.name });
  return all.filter(({ itemId }) => !fresh.includes(itemId));
}

const CHANGE = namedQuery("a change by its name", (reader) =>
  reader
    .select()
    .from(codeChange)
    .where(
      and(
        eq(codeChange.repositoryId, sql.placeholder("repositoryId")),
        eq(codeChange.name, sql.placeholder("name")),
      ),
    ),
);

async function changeNamed(
  { tx, repositoryId }: Taking,
  name: string,
): Promise<ChangeRow | undefined> {
  const [row] = await CHANGE(tx, { repositoryId, name });
  return row;
}

/**
 * Stores what an event says of a change. Events may come in any order: what happened later holds, what
 * happened before fills in what nobody has said yet, and what was merged stays so.
 */
async function storeChange(
  { tx, repositoryId }: Taking,
  before: ChangeRow | undefined,
  news: ChangeNews,
): Promise<ChangeRow> {
  const { at, status } = news;
  const said = {
    title: news.title,
    branch: news.branch,
    head: news.head,
    authorName: news.author?.name ?? null,
    authorMail: news.author?.mail ?? null,
    files: news.size?.files ?? null,
    insertions: news.size?.insertions ?? null,
    deletions: news.size?.deletions ?? null,
    behind: news.behind,
    mergesCleanly: news.mergesCleanly,
    mergedAs: news.mergedAs,
    url: news.url,
  };
  if (!before) {
    const [row] = await tx
      .insert(codeChange)
      .values({
        ...said,
        title: said.title ?? "",
        id: newId(),
        repositoryId,
        name: news.change,
        status: status ?? "open",
        openedAt: at,
        endedAt: status === "merged" || status === "abandoned" ? at : null,
        toldAt: at,
      })
      .returning();
    return row;
  }
  const isLater = at >= before.toldAt;
  const holds = (name: keyof typeof said) =>
    said[name] !== null && (isLater || before[name] === null || before[name] === "");
  // Whose branch it is does not change with whoever merges it.
  const first = (name: keyof typeof said) =>
    (name === "authorName" || name === "authorMail") && before[name] !== null;
  const changes = Object.fromEntries(
    Object.entries(said).filter(
      ([name]) => holds(name as keyof typeof said) && !first(name as keyof typeof said),
    ),
  );
  const becomes =
    status === "merged" || (status !== null && isLater && before.status !== "merged")
      ? status
      : before.status;
  const [row] = await tx
    .update(codeChange)
    .set({
      ...changes,
      ...(before.head !== null && changes.head !== undefined && changes.head !== before.head
        ? { checks: null }
        : {}),
      status: becomes,
      endedAt: becomes === before.status ? before.endedAt : becomes === "open" ? null : at,
      openedAt: Math.min(before.openedAt, at),
      toldAt: Math.max(before.toldAt, at),
    })
    .where(eq(codeChange.id, before.id))
    .returning();
  return row;
}

/**
 * Links a change to the items that its title or its branch names, or the commits on that branch.
 * @returns the items that it was not linked to before
 */
async function linkChange(
  { tx, source, repositoryId }: Taking,
  { name, title, branch }: ChangeRow,
  named: readonly string[],
): Promise<string[]> {
  const keys = keysNamed([title, branch ?? "", ...named]);
  const byKey = await itemsNamed(tx, source.projectIds, keys);
  const ofBranch = branch === null ? [] : await itemsOfBranch(tx, repositoryId, branch);
  const links = [...new Set([...byKey.values(), ...ofBranch])].map((itemId): CodeLink => ({
    itemId,
    repositoryId,
    kind: "change",
    name,
  }));
  return (await linkCode(tx, links)).map(({ itemId }) => itemId);
}

/** After a push: the open changes of the branch have its head, and belong to what its commits name. */
export async function followBranch(
  taking: Taking,
  { branch, head, at }: { branch: string; head: string; at: Instant },
): Promise<Told[]> {
  const { tx, repositoryId } = taking;
  const rows = await tx
    .select()
    .from(codeChange)
    .where(
      and(
        eq(codeChange.repositoryId, repositoryId),
        eq(codeChange.branch, branch),
        eq(codeChange.status, "open"),
      ),
    );
  const told: Told[] = [];
  for (const row of rows) {
    const fresh = await linkChange(taking, row, []);
    told.push(...(await toldFresh(taking, row, fresh)));
    if (at < row.toldAt || row.head === head) continue;
    await tx
      .update(codeChange)
      .set({ head, checks: null, toldAt: at })
      .where(eq(codeChange.id, row.id));
    if (row.head !== null) told.push(...(await toldOthers(taking, row, fresh)));
  }
  return told;
}

/** The changes that became a commit on main, by their names. */
export async function mergedInto(
  tx: Transaction,
  repositoryId: string,
  hash: string,
): Promise<string[]> {
  const rows = await tx
    .select({ name: codeChange.name })
    .from(codeChange)
    .where(and(eq(codeChange.repositoryId, repositoryId), eq(codeChange.mergedAs, hash)));
  return rows.map(({ name }) => name);
}

/** Takes in what somebody said of a change. What they said of older commits is kept with those. */
export async function takeReview(taking: Taking, news: ReviewNews): Promise<Told[]> {
  const { tx, repositoryId } = taking;
  const { change, by, verdict, head, at } = news;
  // It may be heard of before the change is.
  const row =
    (await changeNamed(taking, change)) ??
    (await storeChange(taking, undefined, {
      ...{ kind: "change", change, repository: news.repository, at, status: null, title: null },
      ...{ branch: null, head, author: null, size: null, behind: null, mergesCleanly: null },
      ...{ mergedAs: null, url: null, items: [] },
    }));
  await tx
    .insert(codeReview)
    .values({ changeId: row.id, byMail: by.mail, byName: by.name, verdict, head, at })
    .onConflictDoNothing();
  if (!isOf(row, head)) return [];
  const kind = REVIEW_FACT[verdict];
  const items = await itemsOfCode(tx, repositoryId, "change", [change]);
  return items.map(({ itemId }) => ({ itemId, fact: { kind, change } }));
}
