import { cutAt, type Instant, type Interval } from "@/core/calendar/instant";
import { dayNumber, dayStart } from "@/core/calendar/zone";
import type { Stay } from "@/core/item/snapshot";
import { isInProgress } from "@/core/workflow/workflow";

/**
 * What the measures need to know of an item: where it was when, and when it was blocked. Never the
 * snapshot alone.
 */
export interface FlowHistory {
  id: string;
  key: string;
  title: string;
  typeId: string;
  classOfService: string;
  /** Oldest first, without gaps; the last is open unless the item was withdrawn. */
  stays: Stay[];
  blocks: Interval[];
}

/** Half-open window of time that a measure looks at. */
export interface Period {
  from: Instant;
  to: Instant;
}

/**
 * The stretches during which an item was in progress. The first begins at the commitment point;
 * each ends at the delivery point or where the item went back to unstarted.
 */
export function clockOf(history: FlowHistory): Interval[] {
  const clock: Interval[] = [];
  for (const stay of history.stays) {
    if (!isInProgress(stay.kind)) continue;
    const last = clock.at(-1);
    if (last && last.to === stay.from) last.to = stay.to;
    else clock.push({ from: stay.from, to: stay.to });
  }
  return clock;
}

/** A history as it was known at an instant: nothing that happened later is in it. */
export const historyAt = (history: FlowHistory, at: Instant): FlowHistory => ({
  ...history,
  stays: cutAt(history.stays, at),
  blocks: cutAt(history.blocks, at),
});

/**
 * The last so many weeks by the calendar of a zone, today whole as far as it has come. The same for
 * all figures of such a time.
 */
export function lastWeeks(weeks: number, zone: string, now: Instant): Period {
  return { from: dayStart(dayNumber(now, zone) - weeks * 7 + 1, zone), to: now + 1 };
}

/** Blocked intervals merged where they overlap, oldest first. */
export function mergedBlocks(
  blocks: readonly Interval[],
  now: Instant,
): { from: Instant; to: Instant }[] {
  const merged: { from: Instant; to: Instant }[] = [];
  for (const { from, to } of [...blocks].sort((a, b) => a.from - b.from)) {
    const last = merged.at(-1);
    const end = to ?? now;
    if (last && from <= last.to) last.to = Math.max(last.to, end);
    else merged.push({ from, to: end });
  }
  return merged;
}
