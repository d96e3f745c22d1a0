import { DAY, type Instant } from "@/core/calendar/instant";
import { stepsOfCriteria, type TestStep } from "@/core/ship/testing/test-case";
import type { DemoItem } from "../history";
import type { DemoProject } from "../projects";
import { DEMO_CASES } from "../words/test-cases";

/** A case as it is stored. */
export interface MadeCase {
  id: string;
  number: number;
  title: string;
  suite: string | null;
  part: string | null;
  before: string;
  steps: TestStep[];
  createdAt: Instant;
  createdBy: string;
  itemIds: string[];
}

/** Longer ago than this the crew kept no cases. */
const DAYS_KEPT = 120;
/** So many of the items have cases of their own, from what they are accepted by. */
const OWN_CASES = 26;

/** The crew's cases: those of the parts of the product, and some that were written for an item. */
export function makeCases(
  project: DemoProject,
  items: readonly DemoItem[],
  { nextId, now }: { nextId: () => string; now: Instant },
): MadeCase[] {
  const createdAt = now - DAYS_KEPT * DAY;
  const shared = DEMO_CASES[project.key].map(({ steps, ...one }, i): MadeCase => ({
    ...{ ...one, id: nextId(), number: i + 1, createdAt, createdBy: "lukas" },
    steps: steps.map(([action, expected]) => ({ id: nextId(), action, expected })),
    itemIds: [],
  }));
  for (const { snapshot } of items) {
    const own = shared.filter(({ part }) => part !== null && snapshot.parts.includes(part));
    // Each by one: nobody walks through all of a part for every change of it.
    if (own.length > 0) own[snapshot.number % own.length].itemIds.push(snapshot.id);
  }
  const written = items
    .filter(({ snapshot }) => snapshot.criteria.length > 1 && snapshot.stateKind !== "unstarted")
    .toSorted((a, b) => b.snapshot.createdAt - a.snapshot.createdAt)
    .slice(0, OWN_CASES)
    .toReversed();
  return [
    ...shared,
    ...written.map(({ snapshot }, i): MadeCase => ({
      ...{ id: nextId(), number: shared.length + i + 1, title: snapshot.title, suite: null },
      ...{ part: snapshot.parts[0] ?? null, before: "", itemIds: [snapshot.id] },
      ...{ createdAt: snapshot.createdAt, createdBy: snapshot.assigneeId ?? "lukas" },
      steps: stepsOfCriteria(snapshot.criteria, nextId),
    })),
  ];
}
