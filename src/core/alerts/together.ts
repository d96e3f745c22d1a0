import { MINUTE, type Instant } from "@/core/calendar/instant";

/** So long after the last thing the next still belongs to the same alert. */
export const STILL_TOGETHER = 5 * MINUTE;
/** And so long after the first. */
export const LONGEST_TOGETHER = 15 * MINUTE;

/** When things began and last happened that are one alert. */
export interface Stretch {
  firstAt: Instant;
  lastAt: Instant;
}

/** Whether something that happens now belongs to an alert that is there. */
export const belongsTo = ({ firstAt, lastAt }: Stretch, at: Instant): boolean =>
  at - lastAt <= STILL_TOGETHER && at - firstAt <= LONGEST_TOGETHER;

/** When nothing more can come to an alert, so that its mail says all of it. */
export const closesAt = ({ firstAt, lastAt }: Stretch): Instant =>
  Math.min(lastAt + STILL_TOGETHER, firstAt + LONGEST_TOGETHER);
