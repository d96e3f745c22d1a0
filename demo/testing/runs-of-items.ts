import { DAY, HOUR, MINUTE, type Instant } from "@/core/calendar/instant";
import type { Random } from "@/core/forecast/random";
import type { ItemEvent } from "@/core/item/event";
import type { StepResult } from "@/core/ship/testing/step-result";
import { meaningOf } from "@/core/workflow/state-meaning";
import type { Workflow } from "@/core/workflow/workflow";
import type { DemoDelivery } from "../code/deliveries";
import { withHeard } from "../heard";
import type { DemoItem } from "../history";
import type { MadeCase } from "./made-cases";

/*
 * What the crew's testers tried: the histories of the items say when each was in test, by whom, and whether
 * it went on or back, with why.
 */

/** What was said of a step. */
interface DemoSaid {
  stepId: string;
  result: StepResult;
  note: string;
  at: Instant;
}

/** A time that an item was tested. */
export interface DemoTestRun {
  number: number;
  item: DemoItem["snapshot"];
  testerId: string;
  startedAt: Instant;
  /** Null while it is under way. */
  endedAt: Instant | null;
  verdict: "passed" | "failed" | null;
  build: DemoDelivery["builds"][number] | null;
  cases: { made: MadeCase; said: DemoSaid[] }[];
}

interface Visit {
  item: DemoItem;
  testerId: string;
  from: Instant;
  to: Instant | null;
  back: boolean;
  why: string;
}

/** Longer ago nobody asks for it. */
const DAYS_KEPT = 120;

/** When items were in test, in the order of time. */
function visitsOf(items: readonly DemoItem[], workflow: Workflow, now: Instant): Visit[] {
  const tested = new Set(
    workflow.states
      .filter(({ id, kind }) => kind === "working" && isOfTest(workflow, id))
      .map(({ id }) => id),
  );
  return items
    .flatMap((item) => {
      const moves = item.events.filter((one) => one.kind === "moved");
      return moves.flatMap((move, i): Visit[] => {
        if (!tested.has(move.new.stateId) || move.actorId === null) return [];
        if (move.at < now - DAYS_KEPT * DAY) return [];
        const left = moves[i + 1];
        return [
          {
            ...{ item, testerId: move.actorId, from: move.at, to: left?.at ?? null },
            ...{ back: left?.new.isReturn ?? false, why: left?.note ?? "" },
          },
        ];
      });
    })
    .toSorted((a, b) => a.from - b.from);
}

/**
 * The runs that the items' histories come to.
 * @param casesOf the cases that test an item
 */
export function runsOfItems(
  items: readonly DemoItem[],
  {
    workflow,
    casesOf,
    delivery,
    random,
    now,
  }: {
    workflow: Workflow;
    casesOf: (item: DemoItem) => readonly MadeCase[];
    delivery: DemoDelivery;
    random: Random;
    now: Instant;
  },
): DemoTestRun[] {
  const visits = visitsOf(items, workflow, now).filter(({ item }) => casesOf(item).length > 0);
  return visits.map((visit, i): DemoTestRun => {
    const { item, testerId, from, to, back } = visit;
    const startedAt = from + 2 * MINUTE;
    const endedAt = to === null ? null : Math.max(startedAt + MINUTE, to - 3 * MINUTE);
    const failed = back && visit.why !== "";
    return {
      ...{ number: i + 1, item: item.snapshot, testerId, startedAt, endedAt },
      verdict: endedAt === null ? null : failed ? "failed" : "passed",
      build:
        delivery.deployments.findLast(
          (one) => one.environment === "test" && one.outcome === "deployed" && one.at <= startedAt,
        )?.build ?? null,
      cases: saidOf(casesOf(item), { ...visit, startedAt, endedAt, failed, random, now }),
    };
  });
}

function saidOf(
  cases: readonly MadeCase[],
  {
    startedAt,
    endedAt,
    failed,
    why,
    random,
    now,
  }: Visit & {
    startedAt: Instant;
    endedAt: Instant | null;
    failed: boolean;
    random: Random;
    now: Instant;
  },
): DemoTestRun["cases"] {
  const steps = cases.flatMap((made) => made.steps.map((step) => ({ made, step })));
  const fails = failed ? random.index(steps.length) : -1;
  // What is under way has come some way.
  const tried = endedAt === null ? Math.floor(steps.length / 2) : steps.length;
  const until = Math.min(endedAt ?? now - MINUTE, startedAt + 2 * HOUR);
  const apart = (until - startedAt) / (steps.length + 1);
  const said = steps.slice(0, tried).map(({ made, step }, i) => ({
    made,
    said: {
      ...{ stepId: step.id, at: Math.round(startedAt + (i + 1) * apart) },
      ...(i === fails
        ? { result: "failed" as const, note: why }
        : { result: "passed" as const, note: "" }),
    },
  }));
  return cases.map((made) => ({
    made,
    said: said.filter((one) => one.made === made).map((one) => one.said),
  }));
}

/** The histories with what the runs came to. */
export function withTestRuns(
  items: readonly DemoItem[],
  runs: readonly DemoTestRun[],
  { testerName, nextId }: { testerName: (id: string) => string; nextId: () => string },
): DemoItem[] {
  const told = new Map<string, ItemEvent[]>();
  for (const { item, number, verdict, endedAt, testerId } of runs) {
    if (verdict === null || endedAt === null) continue;
    const event: ItemEvent = {
      ...{ kind: "reported", new: { kind: `test run ${verdict}`, run: String(number) } },
      ...{ note: testerName(testerId), itemId: item.id, at: endedAt, seq: 0 },
      ...{ actorId: testerId, cause: "outside", commandId: nextId() },
    };
    told.set(item.id, [...(told.get(item.id) ?? []), event]);
  }
  return withHeard(items, told);
}

/** Whether a state of a process is one in which items are tested, or wait for it. */
export function isOfTest(workflow: Workflow, stateId: string): boolean {
  const state = workflow.states.find(({ id }) => id === stateId);
  return state !== undefined && meaningOf(state, workflow.states).ofTest;
}
