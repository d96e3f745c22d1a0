import { DAY, type Instant } from "@/core/calendar/instant";
import type { QueueRow } from "./desk-view";
import type { TargetStanding } from "./service-target";

/** What has waited about equally long. */
export interface WaitBar {
  /** Whole days of 24 hours that its reports have waited, first and last. */
  fromDays: number;
  toDays: number;
  /** Those whose promise presses most first, then the oldest. */
  rows: QueueRow[];
}

/** More than so many bars cannot be told apart beside the queue. */
const MOST_BARS = 9;

const PRESSES: readonly TargetStanding[] = ["missed", "at risk"];

/** 0 for a promise that is missed, 1 for one at risk, 2 where nothing presses. */
export function pressure({ promise }: Pick<QueueRow, "promise">): number {
  const at = promise ? PRESSES.indexOf(promise.state.standing) : -1;
  return at < 0 ? PRESSES.length : at;
}

/**
 * The picture of what waits: how many reports wait how long, the longest first. Where they go back
 * further than bars fit, each is of several days, all of equally many.
 */
export function waitPicture(queue: readonly QueueRow[], now: Instant): WaitBar[] {
  if (queue.length === 0) return [];
  const daysOf = (row: QueueRow) => Math.max(0, Math.floor((now - row.receivedAt) / DAY));
  const longest = Math.max(...queue.map(daysOf));
  const step = Math.ceil((longest + 1) / MOST_BARS);
  const bars: WaitBar[] = [];
  for (let fromDays = 0; fromDays <= longest; fromDays += step)
    bars.unshift({ fromDays, toDays: fromDays + step - 1, rows: [] });
  for (const row of queue) bars[bars.length - 1 - Math.floor(daysOf(row) / step)].rows.push(row);
  for (const bar of bars)
    bar.rows.sort((a, b) => pressure(a) - pressure(b) || a.receivedAt - b.receivedAt);
  return bars;
}
