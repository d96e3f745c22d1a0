import { grouped } from "@/core/item/grouped";
import { onceEach } from "@/core/item/once-each";
import { isInProgress, type StateId } from "./state";
import { statesInOrder, type Workflow } from "./workflow";

/*
 * How a process is really walked, from the steps that were made: which states are passed by, and
 * which steps go back. Where that is often, the process says something else than what happens: one of
 * the two wants to change.
 */

/** So many days back habits are looked for. */
export const HABIT_DAYS = 90;

/** From so often on, of all times it could have been, it is a habit and no exception. */
export const HABIT_SHARE = 0.1;

/** One step of an item from a state to the next. */
export interface Passage {
  itemId: string;
  from: StateId;
  to: StateId;
}

/** What happened so often, of so many times that it could have. */
interface Counted {
  times: number;
  of: number;
  itemIds: string[];
}

export interface SkippedState extends Counted {
  stateId: StateId;
  /** The steps that went past it, the most frequent first. */
  past: { from: StateId; to: StateId; times: number }[];
}

export interface BackwardStep extends Counted {
  from: StateId;
  to: StateId;
}

export interface Habits {
  days: number;
  steps: number;
  skipped: SkippedState[];
  backwards: BackwardStep[];
}

/** Whether something happens so often that it is a habit. */
export const isHabit = ({ times, of }: Pick<Counted, "times" | "of">): boolean =>
  times > 1 && times / of >= HABIT_SHARE;

/**
 * The states that are passed by, and the steps that go back, the most frequent first.
 * A step on goes past the states in progress between its two, in the order of the process; one that
 * ends an item without a delivery goes past nothing. What could have been: for a state all steps that
 * reached or passed it from before; for a step back all steps from where it began, and of what was
 * finished all that finished so.
 */
export function habitsOf(workflow: Workflow, passages: readonly Passage[]): Habits {
  const order = statesInOrder(workflow);
  const placeOf = new Map(order.map(({ id }, i) => [id, i]));
  const known = passages.filter(({ from, to }) => placeOf.has(from) && placeOf.has(to));
  const at = (id: StateId) => placeOf.get(id)!;
  const ends = (id: StateId) => {
    const state = order[at(id)];
    return state.kind === "finished" && !state.outcomes.includes("delivered");
  };
  const on = known.filter(({ from, to }) => at(to) > at(from) && !ends(to));
  const back = known.filter(({ from, to }) => at(to) < at(from));
  const skipped = order
    .filter(({ kind }) => isInProgress(kind))
    .map(({ id }): SkippedState => {
      const passed = on.filter(({ from, to }) => at(from) < at(id) && at(to) > at(id));
      const entered = on.filter(({ from, to }) => at(from) < at(id) && to === id);
      return {
        stateId: id,
        ...countedOf(passed, passed.length + entered.length),
        past: [...grouped(passed, stepName).values()]
          .map((of) => ({ from: of[0].from, to: of[0].to, times: of.length }))
          .toSorted((a, b) => b.times - a.times),
      };
    });
  const backwards = [...grouped(back, stepName).values()].map((of): BackwardStep => {
    const [{ from, to }] = of;
    // Nothing but a step back leaves what is finished: there it counts how often that was reached.
    const finished = order[at(from)].kind === "finished";
    const could = known.filter((step) => (finished ? step.to : step.from) === from).length;
    return { from, to, ...countedOf(of, Math.max(of.length, could)) };
  });
  const often = <T extends Counted>(all: readonly T[]): T[] =>
    all.filter(({ times }) => times > 0).toSorted((a, b) => b.times - a.times);
  return {
    days: HABIT_DAYS,
    steps: known.length,
    skipped: often(skipped),
    backwards: often(backwards),
  };
}

const stepName = ({ from, to }: Passage): string => JSON.stringify([from, to]);

const countedOf = (steps: readonly Passage[], of: number): Counted => ({
  times: steps.length,
  of,
  itemIds: onceEach(steps.map(({ itemId }) => ({ id: itemId }))).map(({ id }) => id),
});

/** The same for somebody who may not see some of the items: as many, but not which. */
export function maskHabits(habits: Habits, mask: (ids: readonly string[]) => string[]): Habits {
  const masked = <T extends Counted>(one: T): T => ({ ...one, itemIds: mask(one.itemIds) });
  return {
    ...habits,
    skipped: habits.skipped.map(masked),
    backwards: habits.backwards.map(masked),
  };
}
