import { DAY, type Instant } from "@/core/calendar/instant";
import { belongsTo, type Stretch } from "./together";

/** A rule is tried on so many days. */
export const TRIAL_DAYS = 30;

/** So many of what somebody would have got are shown. */
export const TRIAL_SHOWN = 8;

/** Something that would have been told about an item. */
export interface TrialMoment {
  itemId: string;
  at: Instant;
  /** Steps of the item's history. */
  seqs: readonly number[];
}

/** An alert that somebody would have got: what happened shortly after each other is one. */
export interface TrialAlert extends Stretch {
  itemId: string;
  moments: TrialMoment[];
}

/**
 * The alerts that moments come to, the latest first: the same joining as when they happen.
 * @param moments in any order
 */
export function trialAlerts(moments: readonly TrialMoment[]): TrialAlert[] {
  const alerts: TrialAlert[] = [];
  const open = new Map<string, TrialAlert>();
  for (const moment of moments.toSorted((a, b) => a.at - b.at)) {
    const { itemId, at } = moment;
    const before = open.get(itemId);
    if (before && belongsTo(before, at)) {
      before.lastAt = at;
      before.moments.push(moment);
      continue;
    }
    const alert = { itemId, firstAt: at, lastAt: at, moments: [moment] };
    open.set(itemId, alert);
    alerts.push(alert);
  }
  return alerts.toSorted((a, b) => b.lastAt - a.lastAt || (a.itemId < b.itemId ? -1 : 1));
}

/**
 * What a trial came to, in words.
 * @param since from when on could be looked, where that is later than the trial's first day
 * @example "You would have got 14 in the last 30 days, about 3 a week."
 */
export function trialWords(
  count: number,
  { now, since }: { now: Instant; since: Instant },
): string {
  const days = Math.max(1, Math.round((now - since) / DAY));
  const stretch = `in the last ${days} ${days === 1 ? "day" : "days"}`;
  if (count === 0) return `You would have got none ${stretch}.`;
  const perWeek = (count / days) * 7;
  const pace = perWeek >= 1 ? `, about ${Math.round(perWeek)} a week` : ", less than one a week";
  return `You would have got ${count} ${stretch}${days >= 7 ? pace : ""}.`;
}
