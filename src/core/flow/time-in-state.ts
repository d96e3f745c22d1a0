import { DAY, type Days } from "@/core/calendar/instant";
import type { StateId, StateKind } from "@/core/workflow/state";
import type { StateSum } from "./facts";

export interface TimeInState {
  stateId: StateId;
  kind: StateKind;
  /** Items that were ever in the state. */
  items: number;
  /**
   * Mean over all the given items, those that skipped the state included, so the states add up to
   * the whole.
   */
  average: Days;
  /** The blocked part of `average`, and the part in which items were ready for their next step. */
  blocked: Days;
  ready: Days;
}

export interface FlowTimes {
  states: TimeInState[];
  /** Mean per item, in days. */
  working: Days;
  waiting: Days;
  blocked: Days;
  /** working ÷ (working + waiting + blocked), null when there is no time at all. */
  efficiency: number | null;
}

/**
 * Average time in each state in progress and flow efficiency. Time blocked, or ready for the next
 * step, counts as waiting, whatever the state: such an hour in a working state lowers the efficiency.
 * @param items how many items the sums are of
 */
export function flowTimes(sums: readonly StateSum[], items: number): FlowTimes {
  const perItem = DAY * Math.max(1, items);
  const total = sums.reduce((sum, s) => sum + s.spentMs, 0);
  const blocked = sums.reduce((sum, s) => sum + s.blockedMs, 0);
  const working = sums.reduce(
    (sum, s) => sum + (s.kind === "working" ? s.spentMs - s.blockedMs - s.readyMs : 0),
    0,
  );
  const waiting = total - working - blocked;
  return {
    states: sums.map(({ stateId, kind, items: were, spentMs, blockedMs, readyMs }) => ({
      stateId,
      kind,
      items: were,
      average: spentMs / perItem,
      blocked: blockedMs / perItem,
      ready: readyMs / perItem,
    })),
    working: working / perItem,
    waiting: waiting / perItem,
    blocked: blocked / perItem,
    efficiency: total > 0 ? working / total : null,
  };
}
