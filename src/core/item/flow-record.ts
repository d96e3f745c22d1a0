import { membershipsOf, type Membership } from "@/core/plan/membership";
import { mergeIntervals, overlap, type Interval } from "@/core/calendar/instant";
import type { ItemEvent } from "./event";
import { passagesOf, type MeasuredStay, type RecordedPassage } from "./passage";
import { blocksOf, readiesOf, staysOf, type BlockedInterval } from "./snapshot";

/** What flow measures read of an item: kept as events come, and the same when made anew. */
export interface FlowRecord {
  stays: MeasuredStay[];
  blocks: BlockedInterval[];
  passages: RecordedPassage[];
  /** How long it was in which sprint and release. */
  memberships: Membership[];
}

/** Makes the record of a whole history. */
export function flowRecord(events: readonly ItemEvent[]): FlowRecord {
  const blocks = blocksOf(events);
  const readies = readiesOf(events);
  const stays = staysOf(events).map((stay) => ({
    ...stay,
    blockedMs: endedWithin(stay, blocks),
    readyMs: endedWithin(stay, readies),
  }));
  return { stays, blocks, passages: passagesOf(stays), memberships: membershipsOf(events) };
}

/**
 * How long of a stay some stretches take, overlapping ones counted once. A stretch that still goes
 * on in a stay that is open counts when it ends.
 */
function endedWithin(stay: Interval, intervals: readonly Interval[]): number {
  const stretches = mergeIntervals(intervals, Infinity);
  const ended = stay.to === null ? stretches.filter((s) => s.to !== Infinity) : stretches;
  return ended.reduce((sum, stretch) => sum + overlap(stay, stretch, stretch.to), 0);
}
