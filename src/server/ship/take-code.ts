import { and, eq, inArray } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { ChangeChecks } from "@/core/item/outside";
import type { ChangeNews, CodeNews, ReviewNews, TagNews } from "@/core/ship/code-event";
import { codeChange, releaseTag } from "@/db/schema";
import { announceAll } from "../events/announce";
import { projectsOfItems } from "../item/items-named";
import { itemsOfBranch, itemsOfCode, type Told } from "./item-code";
import { HEARD, repositoriesOf, repositoryOf } from "./repository";
import { takeBranch, takePush, type Taken } from "./take-push";
import { takeChange, takeReview } from "./take-change";
import { noteShown, readOnce, type Post, type Taking } from "./taking";

/**
 * Takes in what a code host says: branches, commits, changes and reviews are kept, and linked to the
 * items that they name. Whoever has a page of those open is told.
 * @returns what the items are to be told
 */
export async function takeCode(post: Post, news: CodeNews): Promise<Told[]> {
  const repositoryId = await repositoryOf(post, news.repository);
  const { told, itemIds } = await takeNews({ ...post, repositoryId }, news);
  noteShown(post, itemIds);
  return told;
}

/** Tells the pages of each project that a source speaks for: of its own items, or of its code alone. */
export async function announceCode({ tx, source, shown, now }: Post): Promise<void> {
  if (shown === null) return;
  const itemIds = [...shown];
  const projects = itemIds.length > 0 ? await projectsOfItems(tx, itemIds) : new Map();
  const all = source.projectIds.flatMap((projectId) => {
    const own = itemIds.filter((id) => projects.get(id) === projectId);
    return (own.length > 0 ? own : [null]).map((itemId) => ({
      projectId,
      happening: { kind: "code changed" as const, data: { itemId } },
    }));
  });
  await announceAll(tx, all, now);
}

async function takeNews(taking: Taking, news: CodeNews): Promise<Taken> {
  const { tx, repositoryId } = taking;
  switch (news.kind) {
    case "push":
      return takePush(taking, news);
    case "branch": {
      const told = await takeBranch(taking, news);
      return { told, itemIds: await itemsOfBranch(tx, repositoryId, news.branch) };
    }
    case "change":
      return ofChange(taking, news, await takeChange(taking, news));
    case "review":
      return ofChange(taking, news, await takeReview(taking, news));
    case "tag":
      return { told: await takeTag(taking, news), itemIds: [] };
  }
}

/** What is about a change is shown by the items that it belongs to. */
async function ofChange(
  { tx, repositoryId }: Taking,
  { change }: ChangeNews | ReviewNews,
  told: Told[],
): Promise<Taken> {
  const items = await itemsOfCode(tx, repositoryId, "change", [change]);
  return { told, itemIds: new Set(items.map(({ itemId }) => itemId)) };
}

/** The tag of a release is there, once its host says so. */
async function takeTag({ tx, repositoryId }: Taking, { tag, at }: TagNews): Promise<Told[]> {
  await tx
    .update(releaseTag)
    .set({ tagAt: at, refused: null })
    .where(and(eq(releaseTag.repositoryId, repositoryId), eq(releaseTag.name, tag)));
  return [];
}

/** The repositories of all projects that a source speaks for. */
const repositoriesHeard = (post: Post): Promise<string[]> =>
  readOnce(post, HEARD, async () => {
    const { tx, source } = post;
    const heard = await Promise.all(source.projectIds.map((id) => repositoriesOf(tx, id)));
    return heard.flat().map(({ id }) => id);
  });

/** What a pipeline says of a change's checks. */
interface Checked {
  change: string;
  checks: ChangeChecks;
  /** What was checked; undefined where nobody said. */
  commit: string | undefined;
  at: Instant;
}

/**
 * Keeps what a pipeline says of a change's checks, unless something newer was said, or they looked at
 * commits that the change does not end with any more.
 * @returns whether it counts; of a change that no code host has told of everything does
 */
export async function keepChecks(
  post: Post,
  { change, checks, commit, at }: Checked,
): Promise<boolean> {
  const { tx } = post;
  const repositoryIds = await repositoriesHeard(post);
  const rows = await tx
    .select({ id: codeChange.id, head: codeChange.head, checksAt: codeChange.checksAt })
    .from(codeChange)
    .where(and(eq(codeChange.name, change), inArray(codeChange.repositoryId, repositoryIds)))
    .for("update");
  if (rows.length === 0) return true;
  const counting = rows.filter(
    ({ head, checksAt }) =>
      (checksAt === null || checksAt <= at) &&
      (commit === undefined || head === null || head.startsWith(commit.toLowerCase())),
  );
  for (const { id } of counting)
    await tx.update(codeChange).set({ checks, checksAt: at }).where(eq(codeChange.id, id));
  return counting.length > 0;
}
