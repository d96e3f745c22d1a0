import type { Instant, Interval } from "@/core/calendar/instant";
import type { Stay } from "@/core/item/snapshot";
import { isInProgress } from "@/core/workflow/workflow";

/** What the measures need to know of an item: where it was when, and when it was blocked. Never the snapshot alone. */
export interface FlowHistory {
  id: string;
  key: string;
  title: string;
  typeId: string;
  classOfService: string;
  /** Oldest first, without gaps; the last is open unless the item left the system. */
  stays: Stay[];
  blocks: Interval[];
}

/** Half-open window of time that a measure looks at. */
export interface Period {
  from: Instant;
  to: Instant;
}

/**
 * The stretches during which an item was in progress. The first begins at the commitment point; each ends at the
 * delivery point or where the item went back to unstarted.
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

/** When the item entered the finished state it is in now; null while it is not finished, or if it was never started. */
export function finishedAt(history: FlowHistory): Instant | null {
  const last = history.stays.at(-1);
  if (!last || last.kind !== "finished" || last.to !== null) return null;
  if (!history.stays.some((s) => isInProgress(s.kind))) return null;
  // Moves between finished states do not finish an item again.
  let at = last.from;
  for (let i = history.stays.length - 2; i >= 0 && history.stays[i].kind === "finished"; i--) at = history.stays[i].from;
  return at;
}

/** Blocked intervals merged where they overlap, oldest first. */
export function mergedBlocks(blocks: readonly Interval[], now: Instant): { from: Instant; to: Instant }[] {
  const merged: { from: Instant; to: Instant }[] = [];
  for (const { from, to } of [...blocks].sort((a, b) => a.from - b.from)) {
    const last = merged.at(-1);
    const end = to ?? now;
    if (last && from <= last.to) last.to = Math.max(last.to, end);
    else merged.push({ from, to: end });
  }
  return merged;
}
