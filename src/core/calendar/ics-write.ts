import ical, { ICalEventTransparency } from "ical-generator";
import type { Instant } from "./instant";
import { addDays, type Day } from "./month";

/** What stands in a calendar file on whole days; both belong to it. */
export interface CalendarEntry {
  /** Stays the same for the same thing, whatever becomes of it. */
  id: string;
  from: Day;
  to: Day;
  title: string;
  words: string;
  /** Where one reads more. */
  page: string;
}

/**
 * An iCalendar file (RFC 5545) of entries on whole days. Nobody is busy by them.
 * @param stampedAt when it was made
 */
export function calendarFile({
  name,
  entries,
  stampedAt,
}: {
  name: string;
  entries: readonly CalendarEntry[];
  stampedAt: Instant;
}): string {
  const calendar = ical({ name, prodId: { company: "Zigzag Lane", product: "Calendar" } });
  for (const { id, from, to, title, words, page } of entries)
    calendar.createEvent({
      id,
      start: new Date(from),
      // The day of the end does not belong to it.
      end: new Date(addDays(to, 1)),
      allDay: true,
      stamp: new Date(stampedAt),
      summary: title,
      description: words || null,
      url: page,
      transparency: ICalEventTransparency.TRANSPARENT,
    });
  return calendar.toString();
}
