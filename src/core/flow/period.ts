import type { Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart } from "@/core/calendar/zone";

/** Half-open window of time that a measure looks at. */
export interface Period {
  from: Instant;
  to: Instant;
}

/**
 * The last so many weeks by the calendar of a zone, today whole as far as it has come. The same for
 * all figures of such a time.
 */
export function lastWeeks(weeks: number, zone: string, now: Instant): Period {
  return { from: dayStart(dayNumber(now, zone) - weeks * 7 + 1, zone), to: now + 1 };
}
