import { DAY, overlap, type Days, type Instant } from "@/core/calendar/instant";
import type { StateId, StateKind } from "@/core/workflow/workflow";
import { mergedBlocks, type FlowHistory } from "./history";

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
  /** The blocked part of `average`. */
  blocked: Days;
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
 * Average time in each state and flow efficiency. Blocked time counts as waiting, whatever the
 * state, so a blocked hour in a working state lowers the efficiency.
 */
export function flowTimes(histories: readonly FlowHistory[], now: Instant): FlowTimes {
  const states = new Map<StateId, TimeInState>();
  let working = 0;
  let waiting = 0;
  let blocked = 0;
  for (const { stays, blocks } of histories) {
    const merged = blocks.length > 0 ? mergedBlocks(blocks, now) : [];
    const seen = new Set<StateId>();
    for (const stay of stays) {
      if (stay.kind === "unstarted" || stay.kind === "finished") continue;
      const spent = (stay.to ?? Math.max(now, stay.from)) - stay.from;
      let stopped = 0;
      for (const block of merged) stopped += overlap(stay, block, now);
      let row = states.get(stay.stateId);
      if (!row)
        states.set(
          stay.stateId,
          (row = { stateId: stay.stateId, kind: stay.kind, items: 0, average: 0, blocked: 0 }),
        );
      if (!seen.has(stay.stateId)) row.items += 1;
      seen.add(stay.stateId);
      row.average += spent;
      row.blocked += stopped;
      blocked += stopped;
      if (stay.kind === "working") working += spent - stopped;
      else waiting += spent - stopped;
    }
  }
  const perItem = DAY * Math.max(1, histories.length);
  const total = working + waiting + blocked;
  return {
    states: [...states.values()].map((s) => ({
      ...s,
      average: s.average / perItem,
      blocked: s.blocked / perItem,
    })),
    working: working / perItem,
    waiting: waiting / perItem,
    blocked: blocked / perItem,
    efficiency: total > 0 ? working / total : null,
  };
}
