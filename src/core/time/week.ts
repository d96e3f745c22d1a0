import { addDays, weekdayOf, type Day } from "@/core/calendar/month";
import { parseIsoDate } from "@/core/calendar/zone";
import type { PersonHours } from "@/core/alerts/hours";
import type { TimeEntry } from "./entry";

/** The Monday of a day's week, as ISO 8601 counts weeks. */
export const mondayOf = (day: Day): Day => addDays(day, -weekdayOf(day));

/**
 * The number of a day's week in its year by ISO 8601: the first one has the year's first Thursday.
 * @example weekNumber("2027-01-01") === 53
 */
export function weekNumber(day: Day): number {
  const thursday = addDays(mondayOf(day), 3);
  const newYear = `${thursday.slice(0, 4)}-01-01`;
  return 1 + Math.floor((parseIsoDate(thursday) - parseIsoDate(newYear)) / 7);
}

/** One day of somebody's week. */
export interface WeekDay {
  day: Day;
  /** How many minutes they work then by their own days; 0 where they do not. */
  room: number;
  /** Why they do not, where they otherwise would. */
  free: "away" | "holiday" | null;
}

/** The seven days of a week, with how much somebody works on each. */
export function weekDays(
  monday: Day,
  { workDays, daysOff, hoursADay }: Pick<PersonHours, "workDays" | "daysOff" | "hoursADay">,
  holidays: ReadonlySet<Day>,
): WeekDay[] {
  return Array.from({ length: 7 }, (_, i): WeekDay => {
    const day = addDays(monday, i);
    if (!workDays.includes(i)) return { day, room: 0, free: null };
    if (holidays.has(day)) return { day, room: 0, free: "holiday" };
    if (daysOff.some(({ from, to }) => from <= day && day <= to))
      return { day, room: 0, free: "away" };
    return { day, room: Math.round(hoursADay * 60), free: null };
  });
}

/** An item with what somebody recorded on it in a week. */
export interface WeekRow {
  itemId: string;
  key: string;
  title: string;
  /** In hours, of the item alone. */
  left: number | null;
  entries: TimeEntry[];
}

/** A week of somebody, with what they recorded in it. */
export interface WeekView {
  person: { id: string; name: string };
  /** Whose weeks one may look at, with what each recorded in this one, in minutes. */
  people: { id: string; name: string; minutes: number }[];
  days: WeekDay[];
  today: Day;
  hoursADay: number;
  /** Only what whoever looks may see. */
  rows: WeekRow[];
  /** By day, what they recorded on items that whoever looks does not see, in minutes. */
  unseen: Record<Day, number>;
  /** What one may record on at once: what one has in hand and no time stands on in this week. */
  inHand: { id: string; key: string; title: string; left: number | null }[];
  /** Whether it is one's own. */
  mine: boolean;
}
