import { randomBytes } from "node:crypto";
import { MINUTE } from "@/core/calendar/instant";
import type { GitCommit } from "@/core/formats/git-log";
import { revertedBy } from "@/core/ship/reverted";
import type { Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import type { Target } from "../../standins/sender";
import { uuidSource } from "../ids";
import { inChunks } from "../in-chunks";
import { mailOf, PEOPLE } from "../people";
import { seededRandom } from "@/core/forecast/random";
import { CODE_HOST, type DemoCode } from "./with-code";
import type { CodeStory } from "./story";

type Loaded<T extends { $inferInsert: unknown }> = T["$inferInsert"][];

/**
 * Stores what a project's code host has told, as if it had been heard when it happened.
 * @returns by which the host tells more, and under which id its repository is known
 */
export async function loadCode(
  tx: Transaction,
  projectId: string,
  code: DemoCode,
  seed: number,
): Promise<{ target: Target; repositoryId: string }> {
  const nextId = uuidSource(seededRandom(seed));
  const [sourceId, repositoryId] = [nextId(), nextId()];
  const secret = `whsec_${randomBytes(32).toString("base64")}`;
  await tx.insert(table.eventSource).values({
    ...{ id: sourceId, projectId, name: CODE_HOST, createdBy: "ines", createdAt: code.beganAt },
    ...{ secret, asksAt: "/ask" },
    lastHeardAt: Math.max(...[...code.made.commits.values()].map(({ authoredAt }) => authoredAt)),
  });
  await tx.insert(table.codeRepository).values({
    ...{ id: repositoryId, sourceId, name: code.name, firstHeardAt: code.beganAt },
  });
  const branches: Loaded<typeof table.codeBranch> = [];
  const changes: Loaded<typeof table.codeChange> = [];
  const reviews: Loaded<typeof table.codeReview> = [];
  const links: Loaded<typeof table.itemCode> = [];
  const placed = new Map<string, { branch: string; mainAt: number | null }>();
  for (const { story, change } of code.stories) {
    const made = code.made.byStory.get(story)!;
    const at = story.commits.at(-1)!.at;
    const mergedAt = story.change?.mergedAt ?? null;
    for (const hash of made.commits) placed.set(hash, { branch: story.branch, mainAt: mergedAt });
    const by = PEOPLE.find(({ id }) => id === story.commits[0].byId)!;
    const name = story.branch;
    branches.push({
      ...{
        repositoryId,
        name,
        main: false,
        head: made.commits.at(-1),
        firstAt: story.commits[0].at,
      },
      ...{ pushedAt: at, toldAt: mergedAt ?? at, pushedByName: by.name, pushedByMail: mailOf(by) },
      goneAt: mergedAt === null ? null : mergedAt + MINUTE,
    });
    const itemId = story.item.id;
    links.push({ itemId, repositoryId, kind: "branch", name });
    if (story.change === null) continue;
    const id = nextId();
    links.push({ itemId, repositoryId, kind: "change", name: change });
    changes.push({
      id,
      repositoryId,
      name: change,
      ...changeRow(story, code, mailOf(by), by.name),
    });
    for (const review of story.change.reviews) {
      const reviewer = PEOPLE.find((one) => one.id === review.byId)!;
      reviews.push({
        ...{ changeId: id, byMail: mailOf(reviewer), byName: reviewer.name, at: review.at },
        ...{ verdict: review.verdict, head: made.commits[review.after - 1] },
      });
    }
  }
  const commits = [...code.made.commits.values()].map((commit) => {
    const { branch = "main", mainAt = commit.authoredAt } = placed.get(commit.hash) ?? {};
    const back = code.made.revert;
    const taken = back && code.made.byStory.get(back.story)!;
    const isTaken = taken && [taken.mergedAs, ...taken.commits].includes(commit.hash);
    return {
      ...{ repositoryId, hash: commit.hash, parents: commit.parents, message: commit.message },
      ...{ authorName: commit.name, authorMail: commit.mail, authoredAt: commit.authoredAt },
      ...sizeOf(commit),
      ...{ branch, mainAt, pushedAt: commit.authoredAt + MINUTE },
      revertedBy: isTaken ? back!.hash : null,
    };
  });
  const keys = new Map(code.stories.map(({ story }) => [story.key, story.item.id]));
  for (const { hash, message } of commits)
    for (const [key, itemId] of keys)
      if (new RegExp(`\\b${key}\\b`).test(message) && revertedBy(message).length === 0)
        links.push({ itemId, repositoryId, kind: "commit", name: hash });
  const head = commits
    .filter(({ mainAt, branch }) => mainAt !== null && branch === "main")
    .toSorted((a, b) => b.authoredAt - a.authoredAt)[0];
  branches.push({
    ...{ repositoryId, name: "main", main: true, head: head.hash, firstAt: code.beganAt },
    ...{ pushedAt: head.authoredAt, toldAt: head.authoredAt },
  });
  await inChunks(branches, (c) => tx.insert(table.codeBranch).values(c));
  await inChunks(commits, (c) => tx.insert(table.codeCommit).values(c));
  await inChunks(changes, (c) => tx.insert(table.codeChange).values(c));
  await inChunks(reviews, (c) => tx.insert(table.codeReview).values(c));
  await inChunks(links, (c) => tx.insert(table.itemCode).values(c).onConflictDoNothing());
  const target = { repository: code.name, address: `/api/events/${sourceId}`, secret };
  return { target, repositoryId };
}

/** How large a commit is; git counts nothing of a merge. */
const sizeOf = ({ parents, files, insertions, deletions }: GitCommit) =>
  parents.length > 1 ? {} : { files, insertions, deletions };

/** A change as its row has it, but for what names it. */
function changeRow(story: CodeStory, { made }: DemoCode, authorMail: string, authorName: string) {
  const { commits, mergedAs } = made.byStory.get(story)!;
  const told = story.change!;
  const sizes = commits.map((hash) => made.commits.get(hash)!);
  const sum = (of: "insertions" | "deletions") => sizes.reduce((n, size) => n + size[of], 0);
  const files = new Set(story.commits.flatMap(({ edits }) => edits.map(({ file }) => file))).size;
  return {
    ...{ title: story.item.title, branch: story.branch, head: commits.at(-1)!, mergedAs },
    status: told.mergedAt === null ? ("open" as const) : ("merged" as const),
    ...{ authorName, authorMail, files, insertions: sum("insertions") },
    ...{ deletions: sum("deletions"), behind: made.byStory.get(story)!.behind },
    mergesCleanly: made.byStory.get(story)!.mergesCleanly,
    ...{ openedAt: told.openedAt, endedAt: told.mergedAt },
    ...{ toldAt: told.mergedAt ?? story.commits.at(-1)!.at, checks: told.checks },
    checksAt: told.openedAt + MINUTE,
  };
}
