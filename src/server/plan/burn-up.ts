import type { Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart, isoDate } from "@/core/calendar/zone";
import { burnUp } from "@/core/plan/release-plan";
import type { BurnUpDayView } from "@/core/plan/release-view";
import type { SprintItem } from "@/core/plan/sprint-ledger";

/** So many days of how something got on are drawn at most. */
const MOST_DAYS = 120;

/** How something got on, day by day, from the first item in it to an instant. */
export const burnUpOf = (
  items: readonly SprintItem[],
  last: Instant,
  zone: string,
): BurnUpDayView[] =>
  burnUp(
    items,
    daysOf(
      items.flatMap(({ inside }) => inside.map(({ from }) => from)),
      last,
      zone,
    ),
  ).map(({ day, ...told }) => ({ day: isoDate(day), ...told }));

/** When each day ends, from the one on which the first item came into it; the last is not over yet. */
function daysOf(came: readonly Instant[], last: Instant, zone: string) {
  if (came.length === 0) return [];
  const until = dayNumber(last, zone);
  const from = Math.max(dayNumber(Math.min(...came), zone), until - MOST_DAYS);
  return Array.from({ length: Math.max(0, until - from + 1) }, (_, i) => ({
    day: from + i,
    at: Math.min(dayStart(from + i + 1, zone) - 1, last),
  }));
}
