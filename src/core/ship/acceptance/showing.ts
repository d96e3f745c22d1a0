import { DAY, type Instant } from "@/core/calendar/instant";

/** For so long what is shown to somebody can be looked at and answered. */
export const OPEN_DAYS = 30;

/** When what is shown from an instant on can be looked at no more. */
export const closesOn = (from: Instant): Instant => from + OPEN_DAYS * DAY;

/** What is known of the time of something that is shown to somebody. */
export interface ShownTimes {
  askedAt: Instant;
  until: Instant;
  revokedAt: Instant | null;
  /** How often, and when last, they were reminded. */
  reminders: number;
  remindedAt: Instant | null;
}

/** Why it can be looked at no more; null while it can. */
export function closedBecause(
  { until, revokedAt }: Pick<ShownTimes, "until" | "revokedAt">,
  now: Instant,
): "taken back" | "over" | null {
  if (revokedAt !== null) return "taken back";
  return now >= until ? "over" : null;
}

/** After so many days without a word somebody is reminded, each time once. */
export const REMINDED_AFTER_DAYS = [4, 11, 25];

/** Whether somebody who has not said a word is to be reminded. One reminder a day at most, also of those by hand. */
export function isToBeReminded(of: ShownTimes, now: Instant): boolean {
  if (closedBecause(of, now) !== null) return false;
  const after = REMINDED_AFTER_DAYS[of.reminders];
  if (after === undefined || now < of.askedAt + after * DAY) return false;
  return of.remindedAt === null || now >= of.remindedAt + DAY;
}
