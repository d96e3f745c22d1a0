import { membershipsOf, type Membership } from "@/core/plan/membership";
import { mergeIntervals, overlap, type Interval } from "@/core/calendar/instant";
import type { ItemEvent } from "./event";
import { passagesOf, type FlowPassage, type MeasuredStay } from "./passage";
import { blocksOf, staysOf, type BlockedInterval } from "./snapshot";

/** What flow measures read of an item: kept as events come, and the same when made anew. */
export interface FlowRecord {
  stays: MeasuredStay[];
  blocks: BlockedInterval[];
  passages: FlowPassage[];
  /** How long it was in which sprint and release. */
  memberships: Membership[];
}

/** Makes the record of a whole history. */
export function flowRecord(events: readonly ItemEvent[]): FlowRecord {
  const blocks = blocksOf(events);
  const stays = staysOf(events).map((stay) => ({
    ...stay,
    blockedMs: blockedWithin(stay, blocks),
  }));
  return { stays, blocks, passages: passagesOf(stays), memberships: membershipsOf(events) };
}

/**
 * How long of a stay its item was blocked, overlapping blockers counted once. A stretch that still
 * goes on in a stay that is open counts when it ends.
 */
function blockedWithin(stay: Interval, blocks: readonly Interval[]): number {
  const stretches = mergeIntervals(blocks, Infinity);
  const ended = stay.to === null ? stretches.filter((s) => s.to !== Infinity) : stretches;
  return ended.reduce((sum, stretch) => sum + overlap(stay, stretch, stretch.to), 0);
}
