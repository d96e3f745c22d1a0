import { DAY, HOUR, type Instant } from "@/core/calendar/instant";
import { addDays, weekdayOf } from "@/core/calendar/month";

/** Until when something can be put off, in a word. */
export interface Later {
  words: string;
  until: Instant;
}

const MORNING = 8;

/**
 * Until when something can be put off, seen from now: a while, the next morning, the next Monday.
 * @param now as the clock on the wall shows it, for its day and hour
 */
export function laterChoices(now: Date): Later[] {
  const at = now.getTime();
  const day = [now.getFullYear(), now.getMonth() + 1, now.getDate()]
    .map((n) => String(n).padStart(2, "0"))
    .join("-");
  const morningOf = (days: number) => {
    const [year, month, date] = addDays(day, days).split("-").map(Number);
    return new Date(year, month - 1, date, MORNING).getTime();
  };
  const toMonday = 7 - weekdayOf(day);
  return [
    { words: "for three hours", until: at + 3 * HOUR },
    { words: "until tomorrow morning", until: morningOf(1) },
    ...(toMonday > 1 ? [{ words: "until Monday morning", until: morningOf(toMonday) }] : []),
    { words: "for a week", until: at + 7 * DAY },
  ];
}
