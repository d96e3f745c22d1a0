import { NOTHING_AROUND } from "@/core/condition/facts";
import { EMPTY_VOCABULARY, type Vocabulary } from "@/core/condition/vocabulary";
import { NEW_ITEM } from "@/core/item/new-item";
import { parseCel } from "@/core/condition/cel-parse";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import { seededRandom } from "@/core/forecast/random";
import { decide } from "@/core/item/decide";
import type { ItemEvent } from "@/core/item/event";
import { applyEvent } from "@/core/item/snapshot";
import type { ItemSnapshot } from "@/core/item/fields";
import { NO_FOLLOW_UP_CONTEXT } from "@/core/workflow/follow-ups/apply";
import { checkWorkflow } from "@/core/workflow/check";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { reachableFrom, successors } from "@/core/workflow/graph";
import { isRefusal } from "@/core/workflow/refusal";
import { replayMoves } from "@/core/workflow/replay";
import { fromTemplate } from "@/core/workflow/template";
import { BUILD_REVIEW_TEST_DEPLOY } from "@/core/workflow/templates/build-review-test-deploy";
import { PLAIN_TRANSITION, type Workflow } from "@/core/workflow/workflow";
import { PLAIN_STATE } from "@/core/workflow/state";

/** What one measurement gives: the time taken and its yardstick's, in milliseconds. */
export interface Timed {
  measured: number;
  yardstick: number;
}

const NOW = Date.UTC(2026, 5, 1);
const VOCABULARY: Vocabulary = {
  ...EMPTY_VOCABULARY,
  types: [
    { id: "bug", name: "Bug", workflowId: "w" },
    { id: "story", name: "Story", workflowId: "w" },
  ],
};
const AROUND: CheckSurroundings = {
  vocabulary: VOCABULARY,
  peopleOfTeam: {},
  leads: 1,
  workers: 5,
  unshown: {},
};
const ASKER: Asker = { personId: "p1", teamIds: [], now: NOW, zone: "Europe/London" };

function took(work: () => unknown): number {
  const start = performance.now();
  work();
  return performance.now() - start;
}

/** The best of some runs, so that a pause of the machine does not count. */
const best = (times: number, work: () => unknown) =>
  Math.min(...Array.from({ length: times }, () => took(work)));

const bare = {
  workflow: fromTemplate(BUILD_REVIEW_TEST_DEPLOY, ids("w")),
  asking: {
    asker: ASKER,
    vocabulary: VOCABULARY,
    ownFields: [],
    teamsOf: () => [],
    nameOf: (id: string) => id,
    teamName: (id: string) => id,
  },
};

function ids(prefix: string): () => string {
  let n = 0;
  return () => `${prefix}-${n++}`;
}

function made(n: number): { snapshot: ItemSnapshot; event: ItemEvent } {
  const [first] = bare.workflow.states;
  const event: ItemEvent = {
    kind: "created",
    itemId: `i${n}`,
    seq: 1,
    at: NOW - n * 60_000,
    actorId: "p1",
    cause: "demo",
    commandId: `c${n}`,
    new: {
      ...NEW_ITEM,
      projectId: "b",
      number: n,
      stateId: first.id,
      stateKind: first.kind,
      rank: "a0",
      title: `Item ${n}`,
      typeId: n % 3 === 0 ? "bug" : "story",
      severity: n % 5 === 0 ? "major" : null,
      priority: "normal",
      classOfService: "standard",
      origin: "planned",
      estimate: n % 13,
      teamId: null,
      assigneeId: n % 2 === 0 ? "p1" : "p2",
      reviewerId: "p3",
      place: null,
      howToTest: "Look.",
      dueOn: null,
    },
  };
  return { snapshot: applyEvent(null, event), event };
}

/** A million evaluations of a condition against a predicate written by hand. */
export function conditions(): Timed {
  const condition = parseCel(
    'item.type == "Bug" && item.estimate > 3 && (item.assignee == me || item.severity in ["major", "critical"])',
    VOCABULARY,
  ).condition!;
  const items: AskedItem[] = Array.from({ length: 10_000 }, (_, n) => ({
    ...NOTHING_AROUND,
    item: made(n).snapshot,
  }));
  const byHand = ({ item: i }: AskedItem) =>
    i.typeId === "bug" &&
    i.estimate !== null &&
    i.estimate > 3 &&
    (i.assigneeId === "p1" || i.severity === "major" || i.severity === "critical");
  const run = (test: (item: AskedItem) => boolean) => {
    let hits = 0;
    for (let round = 0; round < 100; round++) for (const item of items) if (test(item)) hits += 1;
    return hits;
  };
  if (run((i) => holds(condition, i, ASKER)) !== run(byHand))
    throw new Error("the condition and the predicate differ");
  return {
    measured: best(5, () => run((i) => holds(condition, i, ASKER))),
    yardstick: best(5, () => run(byHand)),
  };
}

/** The check of a workflow of 60 states and 400 moves against one walk through all of it. */
export function check(): Timed {
  const random = seededRandom(7);
  const states = Array.from({ length: 60 }, (_, n) => ({
    ...PLAIN_STATE,
    id: `s${n}`,
    name: `State ${n}`,
    position: n,
    kind:
      n === 0
        ? ("unstarted" as const)
        : n === 59
          ? ("finished" as const)
          : n % 2 === 0
            ? ("working" as const)
            : ("waiting" as const),
  }));
  const transitions = Array.from({ length: 400 }, (_, n) => ({
    ...PLAIN_TRANSITION,
    id: `t${n}`,
    from: [`s${n < 59 ? n : Math.floor(random.next() * 60)}`],
    to: `s${n < 59 ? n + 1 : Math.floor(random.next() * 60)}`,
    verb: `Go ${n}`,
  }));
  const workflow: Workflow = { id: "w", name: "Large", version: 1, states, transitions };
  const walk = () => states.map((s) => reachableFrom(successors(workflow), [s.id]).size);
  return { measured: best(20, () => checkWorkflow(workflow, AROUND)), yardstick: best(20, walk) };
}

/** A hundred thousand past moves under a draft against folding the same events. */
export function replay(): Timed {
  const { workflow, asking } = bare;
  const path = [
    "Ready",
    "Building",
    "Waiting for review",
    "In review",
    "Waiting for test",
    "In test",
    "Ready to deploy",
    "Live",
  ].map((name) => workflow.states.find((s) => s.name === name)!.id);
  const histories = Array.from({ length: 12_500 }, (_, n) => {
    const { snapshot, event } = made(n);
    const events = [event];
    let item = snapshot;
    for (const [step, to] of path.entries()) {
      const result = decide(
        item,
        { kind: "move", from: item.stateId, to, answers: { outcome: "delivered" } },
        {
          ...asking,
          workflow,
          itemId: item.id,
          at: item.updatedAt + 3_600_000,
          actorId: "p1",
          cause: "person",
          commandId: `c${n}-${step}`,
          changedSince: () => [],
          actor: { personId: "p1", role: "member", teamIds: [] },
          around: NOTHING_AROUND,
          followUps: NO_FOLLOW_UP_CONTEXT,
          inEndedSprint: false,
        },
      );
      if (isRefusal(result)) throw new Error(result.sentence);
      events.push(...result);
      item = result.reduce<ItemSnapshot>(applyEvent, item);
    }
    return events;
  });
  const context = {
    ...asking,
    actorOf: (id: string | null) => ({ personId: id, role: "member" as const, teamIds: [] }),
    aroundOf: (_: string, everIn: readonly string[]) => ({ ...NOTHING_AROUND, everIn }),
  };
  const { moves, allowed } = replayMoves(workflow, histories, 0, context);
  if (moves !== 100_000 || allowed !== moves) throw new Error(`${moves} moves, ${allowed} allowed`);
  const fold = () =>
    histories.map((events) => events.reduce<ItemSnapshot | null>(applyEvent, null));
  return {
    measured: best(3, () => replayMoves(workflow, histories, 0, context)),
    yardstick: best(3, fold),
  };
}
