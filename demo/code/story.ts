import { DAY, HOUR, MINUTE, WEEK, type Instant } from "@/core/calendar/instant";
import type { Random } from "@/core/forecast/random";
import type { ItemEvent } from "@/core/item/event";
import type { ChangeChecks, OutsideFact } from "@/core/item/outside";
import { branchName } from "@/core/ship/branch-name";
import type { Workflow } from "@/core/workflow/workflow";
import type { DemoItem } from "../history";
import { PEOPLE } from "../people";

/*
 * What was written for an item: branches, commits and changes at the times at which its history says
 * that it was built, read and passed on.
 */

/** Since then the crew keeps its code where the product hears of it. */
const WEEKS_HEARD = 12;

/** A line of a file that a commit writes. */
export interface Edit {
  file: string;
  line: string;
  words: string;
}

export interface StoryCommit {
  at: Instant;
  byId: string;
  message: string;
  edits: Edit[];
}

export interface StoryReview {
  at: Instant;
  byId: string;
  verdict: "approved" | "sent back";
  /** How many commits there were then. */
  after: number;
}

export interface StoryChange {
  openedAt: Instant;
  reviews: StoryReview[];
  mergedAt: Instant | null;
  mergedById: string;
  checks: ChangeChecks | null;
}

/** One branch and what became of it. */
export interface CodeStory {
  item: DemoItem["snapshot"];
  key: string;
  branch: string;
  commits: StoryCommit[];
  change: StoryChange | null;
}

const TYPE_NAMES: Record<string, string> = { story: "Story", bug: "Bug", request: "Request" };

const LATER = [
  "Tests for the new way",
  "Keep the old way for what is stored already",
  "Say in the log what was chosen",
  "Shorter words on the small screen",
  "The empty list too",
  "Names as the crew on the quay says them",
  "No second request where one answer will do",
];
const AFTER_REVIEW = [
  "After review: one case instead of three",
  "After review: say why in the comment",
  "After review: the error is told, not swallowed",
];
const FILES = ["texts/words.txt", "texts/help.txt", "settings/app.txt", "settings/flags.txt"];

/** How long somebody stood in a state. */
interface Stay {
  state: string;
  from: Instant;
  to: Instant | null;
  /** Where it went, and who moved it. */
  next: string | null;
  byId: string | null;
}

function staysOf(events: readonly ItemEvent[], workflow: Workflow): Stay[] {
  const nameOf = (id: string) => workflow.states.find((state) => state.id === id)?.name ?? "";
  const stays: Stay[] = [];
  for (const event of events) {
    if (event.kind === "created")
      stays.push({ state: nameOf(event.new.stateId), from: event.at, ...OPEN });
    if (event.kind !== "moved") continue;
    const last = stays.at(-1)!;
    const next = nameOf(event.new.stateId);
    Object.assign(last, { to: event.at, next, byId: event.actorId });
    stays.push({ state: next, from: event.at, ...OPEN });
  }
  return stays;
}

const OPEN = { to: null, next: null, byId: null };

/** What stories are written with. */
interface Writing {
  workflow: Workflow;
  pattern: string;
  random: Random;
  now: Instant;
}

/** The stories of a project's items, in the order in which they began. */
export function codeStories(
  items: readonly DemoItem[],
  { workflow, pattern, random, now }: Writing,
): CodeStory[] {
  const since = now - WEEKS_HEARD * WEEK;
  const stories = items
    .flatMap((item) => {
      const { firstStartedAt, typeId, withdrawnAt } = item.snapshot;
      const heard = firstStartedAt !== null && firstStartedAt >= since && withdrawnAt === null;
      return heard && typeId in TYPE_NAMES
        ? storiesOf(item, { workflow, pattern, random, now })
        : [];
    })
    .toSorted((a, b) => a.commits[0].at - b.commits[0].at);
  mergeLate(stories, items, { workflow, now });
  return stories;
}

function storiesOf(
  { snapshot: item, events }: DemoItem,
  { workflow, pattern, random, now }: Writing,
): CodeStory[] {
  const key = `${item.projectId.toUpperCase()}-${item.number}`;
  const builderId = item.assigneeId;
  if (builderId === null) return [];
  const person = PEOPLE.find(({ id }) => id === builderId)!.name;
  const typeName = TYPE_NAMES[item.typeId];
  const named = branchName(pattern, { person, key, typeName, title: item.title });
  const stories: CodeStory[] = [];
  let current: CodeStory | null = null;
  for (const stay of staysOf(events, workflow)) {
    if (stay.state === "Building") {
      if (current === null) {
        const again = stories.length > 0 ? `-${stories.length + 1}` : "";
        current = { item, key, branch: `${named}${again}`, commits: [], change: null };
        stories.push(current);
      }
      write(current, stay, { builderId, random, now });
      if (
        stay.next === "Waiting for review" &&
        current.change === null &&
        current.commits.length > 0
      )
        current.change = {
          openedAt: stay.to! - 2 * MINUTE,
          reviews: [],
          mergedAt: null,
          mergedById: builderId,
          checks: "passed",
        };
    }
    if (stay.state === "In review" && stay.to !== null && current?.change && stay.byId !== null) {
      const passed = stay.next === "Waiting for test";
      const verdict = passed ? "approved" : "sent back";
      const review = { byId: stay.byId, verdict, after: current.commits.length } as const;
      current.change.reviews.push({ at: stay.to - 3 * MINUTE, ...review });
      if (passed) {
        current.change.mergedAt = stay.to - MINUTE;
        current = null;
      }
    }
  }
  return stories.filter(({ commits }) => commits.length > 0);
}

/**
 * What waits to be deployed was held back until its test had passed and what was before it had gone live:
 * main is what goes live next.
 */
function mergeLate(
  stories: readonly CodeStory[],
  items: readonly DemoItem[],
  { workflow, now }: Pick<Writing, "workflow" | "now">,
): void {
  const stays = new Map(
    items.map(({ snapshot, events }) => [snapshot.id, staysOf(events, workflow)]),
  );
  const wentLive = [...stays.values()].flatMap((own) =>
    own.flatMap(({ state, from }) => (state === "Live" ? [from] : [])),
  );
  let after = Math.max(...wentLive);
  for (const { item, change } of stories) {
    const { state, from } = stays.get(item.id)!.at(-1)!;
    if (state !== "Ready to deploy" || !change?.mergedAt) continue;
    after = Math.min(now - HOUR, Math.max(from - MINUTE, after + 25 * MINUTE));
    change.mergedAt = after;
  }
}

/** The commits of one stretch of building. */
function write(
  story: CodeStory,
  { from, to }: Stay,
  { builderId, random, now }: { builderId: string; random: Random; now: Instant },
): void {
  const end = (to ?? now) - 6 * MINUTE;
  if (end - from < 20 * MINUTE) return;
  const most = Math.max(1, Math.min(4, Math.round((end - from) / (10 * HOUR))));
  const count = 1 + random.index(most);
  for (let i = 0; i < count; i++) {
    const first = story.commits.length === 0;
    const words = first
      ? `${story.key}: ${story.item.title}`
      : random.pick(story.change?.reviews.length ? AFTER_REVIEW : LATER);
    story.commits.push({
      at: Math.round(from + ((i + 1) * (end - from)) / (count + 0.5)),
      byId: builderId,
      message:
        !first && i === count - 1 && random.chance(0.3) ? `${words}\n\nFixes ${story.key}` : words,
      edits: Array.from({ length: 1 + random.index(3) }, (_, n): Edit => ({
        file: random.pick(FILES),
        line: `${story.key.toLowerCase()}.${story.commits.length + 1}${"abc"[n]}`,
        words: first ? story.item.title : words,
      })),
    });
  }
}

/** A branch that somebody began for what is not pulled yet, and left. */
export function forgottenStory(
  { snapshot: item }: DemoItem,
  { pattern, now }: { pattern: string; now: Instant },
): CodeStory {
  const key = `${item.projectId.toUpperCase()}-${item.number}`;
  const named = { person: "Ruth Abara", key, typeName: "Story", title: `try ${item.title}` };
  const commit = (days: number, message: string): StoryCommit => ({
    at: now - days * DAY,
    byId: "ruth",
    message,
    edits: [{ file: FILES[2], line: `${key.toLowerCase()}.try${days}`, words: message }],
  });
  return {
    item,
    key,
    branch: branchName(pattern, named),
    commits: [commit(19, "Try what it would take"), commit(18, "Half of it works")],
    change: null,
  };
}

/** What an item hears of a story, and when. */
export function factsOf(story: CodeStory, change: string): { at: Instant; fact: OutsideFact }[] {
  const { commits } = story;
  const facts: { at: Instant; fact: OutsideFact }[] = [
    { at: commits[0].at, fact: { kind: "work pushed" } },
  ];
  if (story.change === null) return facts;
  const { openedAt, reviews, mergedAt, checks } = story.change;
  facts.push({ at: openedAt, fact: { kind: "change opened", change } });
  if (checks === "failed" || checks === "passed")
    facts.push({ at: openedAt + MINUTE, fact: { kind: `checks ${checks}`, change } });
  for (const { at, verdict } of reviews)
    facts.push({
      at,
      fact: { kind: verdict === "approved" ? "review approved" : "review sent back", change },
    });
  if (mergedAt !== null) facts.push({ at: mergedAt, fact: { kind: "change merged", change } });
  return facts;
}
