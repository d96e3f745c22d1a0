import { DAY, HOUR, MINUTE, type Instant } from "@/core/calendar/instant";
import { seededRandom } from "@/core/forecast/random";
import type { ItemEvent } from "@/core/item/event";
import type { Workflow } from "@/core/workflow/workflow";
import { FIRST_BRANCH_PATTERN } from "@/core/ship/branch-name";
import { shortHash } from "@/core/ship/short-hash";
import { withHeard } from "../heard";
import type { DemoItem } from "../history";
import { uuidSource } from "../ids";
import type { DemoProject } from "../projects";
import { deliveriesOf, mergesOf, presenceFacts, type DemoDelivery } from "./deliveries";
import { makeRepository, type MadeRepository } from "./repository";
import { codeStories, factsOf, forgottenStory, type CodeStory } from "./story";

/** Who tells of the crew's code. */
export const CODE_HOST = "Code of the quay";

export const REPOSITORIES: Record<DemoProject["key"], string> = {
  TIX: "ticket-app",
  GATE: "gate-scanner",
  TIDE: "timetable-feed",
};

/** A project's code: its stories, by the names of their changes, and the repository they are in. */
export interface DemoCode {
  name: string;
  beganAt: Instant;
  stories: { story: CodeStory; change: string }[];
  made: MadeRepository;
  delivery: DemoDelivery;
}

/**
 * What the crew of a project wrote, in a real repository, and the histories of its items with what they
 * heard of it.
 * @param folder where the repositories stand
 */
export function withCode(
  project: DemoProject,
  items: readonly DemoItem[],
  { workflow, folder, now }: { workflow: Workflow; folder: string; now: Instant },
): { items: DemoItem[]; code: DemoCode } {
  const random = seededRandom(project.process.seed + 9000);
  const pattern = FIRST_BRANCH_PATTERN;
  const stories = codeStories(items, { workflow, pattern, random, now });
  const forgotten = items.find(
    ({ snapshot }) =>
      snapshot.typeId === "story" && snapshot.stateKind === "unstarted" && !snapshot.restricted,
  );
  if (project.key === "TIX" && forgotten) stories.push(forgottenStory(forgotten, { pattern, now }));
  makeAwkward(stories);
  const name = REPOSITORIES[project.key];
  const numbered = stories
    .toSorted((a, b) => (a.change?.openedAt ?? 0) - (b.change?.openedAt ?? 0))
    .map((story, i) => ({ story, change: `${name}/${i + 1}` }));
  const beganAt = Math.min(...stories.map(({ commits }) => commits[0].at)) - DAY;
  const merged = stories.filter(
    ({ item, change }) => change?.mergedAt != null && item.stateKind !== "finished",
  );
  const story = project.key === "TIX" ? merged.at(-1) : undefined;
  const takenBack = story && { story, at: Math.min(now - HOUR, story.change!.mergedAt! + DAY) };
  const made = makeRepository(`${folder}/${name}.git`, stories, {
    begins: { tree: `demo/code/trees/${name}`, at: beganAt, byId: "noor" },
    takenBack: takenBack ?? null,
  });
  const delivery = deliveriesOf(made, {
    ...{ items, workflow, now, broken: project.key === "GATE" },
    random: seededRandom(project.process.seed + 9300),
  });
  const code = { name, beganAt, stories: numbered, made, delivery };
  return { items: told(items, code, seededRandom(project.process.seed + 9100)), code };
}

/** Among what is open: checks that failed, and some that run still. */
function makeAwkward(stories: readonly CodeStory[]): void {
  const open = stories.filter(({ change }) => change !== null && change.mergedAt === null);
  for (const [i, { change }] of open.entries()) {
    if (i % 4 === 1) change!.checks = "failed";
    if (i % 4 === 3) change!.checks = "running";
  }
}

/** The histories with what was heard, each at its time. */
function told(
  items: readonly DemoItem[],
  { stories, made, delivery }: DemoCode,
  random: ReturnType<typeof seededRandom>,
): DemoItem[] {
  const nextId = uuidSource(random);
  const heard = new Map<string, ItemEvent[]>();
  const hear = (itemId: string, facts: ReturnType<typeof factsOf>) =>
    heard.set(itemId, [
      ...(heard.get(itemId) ?? []),
      ...facts.map(({ at, fact }): ItemEvent => ({
        ...{ kind: "reported", new: fact, note: CODE_HOST, itemId, at, seq: 0 },
        ...{ actorId: null, cause: "outside", commandId: nextId() },
      })),
    ]);
  for (const { story, change } of stories) hear(story.item.id, factsOf(story, change));
  if (made.revert) {
    const { story, at } = made.revert;
    const commit = shortHash(made.byStory.get(story)!.mergedAs!);
    hear(story.item.id, [{ at: at + MINUTE, fact: { kind: "commit reverted", commit } }]);
  }
  const merges = mergesOf(made);
  for (const itemId of new Set(merges.map((one) => one.itemId)))
    hear(itemId, presenceFacts(itemId, merges, delivery));
  return withHeard(items, heard);
}
