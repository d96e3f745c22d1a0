import type { Instant } from "@/core/calendar/instant";
import type { Day } from "@/core/calendar/month";
import { dayNumber, dayStart, isoDate, parseIsoDate } from "@/core/calendar/zone";
import { burnUp } from "@/core/plan/release-plan";
import type { BurnUpDayView } from "@/core/plan/release-view";
import type { ItemOverTime } from "@/core/plan/sprint-ledger";

/** So many days of how something got on are drawn at most. */
const MOST_DAYS = 120;

interface Stretch {
  /** Its last instant. */
  last: Instant;
  zone: string;
  /** From which day on; from the first item in it where none is said. */
  startsOn?: Day | null;
}

/** How something got on, day by day, from its start to an instant; nothing while nothing was in it. */
export const burnUpOf = (items: readonly ItemOverTime[], stretch: Stretch): BurnUpDayView[] =>
  burnUp(
    items,
    daysOf(
      items.flatMap(({ inside }) => inside.map(({ from }) => from)),
      stretch,
    ),
  ).map(({ day, ...told }) => ({ day: isoDate(day), ...told }));

/** When each day ends, from the first on; the last is not over yet. */
function daysOf(came: readonly Instant[], { last, zone, startsOn }: Stretch) {
  if (came.length === 0) return [];
  const until = dayNumber(last, zone);
  const first = startsOn ? parseIsoDate(startsOn) : dayNumber(Math.min(...came), zone);
  const from = Math.max(first, until - MOST_DAYS);
  return Array.from({ length: Math.max(0, until - from + 1) }, (_, i) => ({
    day: from + i,
    at: Math.min(dayStart(from + i + 1, zone) - 1, last),
  }));
}
