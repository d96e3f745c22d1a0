import ICAL from "ical.js";
import { counted } from "@/core/formats/counted";
import { LARGEST_CALENDAR } from "./largest-calendar";
import { addDays, type Day } from "./month";
import type { NamedDays } from "./named-days";
import { daysOfRule, FREQUENCIES, type DayRule, type Frequency } from "./recurrence";

/*
 * Whole days out of an iCalendar file (RFC 5545): holidays, days on which somebody is away. The
 * package takes the text apart; on which days something comes again is worked out here.
 */

/** What a calendar file says, and what of it could not be taken. */
export interface ReadDays {
  days: NamedDays[];
  /** A sentence each. */
  left: string[];
}

/** So many events of a file are looked at. */
const MOST_EVENTS = 5_000;
/** So many stretches come out of a file at most. */
const MOST_STRETCHES = 2_000;
/** So long one stretch is at most, in days. */
const LONGEST = 366;
const LONGEST_NAME = 80;

/**
 * The whole days of a calendar file that touch a stretch of time, in their order.
 * @param window both days belong to it
 * @throws RangeError with a sentence where it is no calendar, or too large
 * @example readDays(text, { from: "2026-11-28", to: "2028-11-28" }).days[0].name === "Sea day"
 */
export function readDays(text: string, window: { from: Day; to: Day }): ReadDays {
  if (text.length > LARGEST_CALENDAR)
    throw new RangeError("The file is larger than 1 MB. Export fewer years of it.");
  if (!/^\uFEFF?\s*BEGIN:VCALENDAR/i.test(text))
    throw new RangeError("This is no calendar file: it does not begin with BEGIN:VCALENDAR.");
  const events = eventsOf(text);
  const left = new Left();
  left.add("further events", Math.max(0, events.length - MOST_EVENTS));
  const taken = events.slice(0, MOST_EVENTS);
  const moved = movedDays(taken);
  const days: NamedDays[] = [];
  for (const event of taken) {
    const stretch = stretchOf(event);
    if (typeof stretch === "string") {
      left.add(stretch);
      continue;
    }
    const starts = startsOf(event, stretch.from, {
      from: addDays(window.from, -LONGEST),
      to: window.to,
    });
    if (typeof starts === "string") left.add(starts);
    // What comes again by a rule that is not understood is there once, at least.
    const found = typeof starts === "string" ? [stretch.from] : starts;
    const away = new Set([...daysIn(event, "exdate"), ...(moved.get(event) ?? [])]);
    for (const from of found) {
      const to = addDays(from, stretch.length - 1);
      if (away.has(from) || to < window.from || from > window.to) continue;
      if (days.length < MOST_STRETCHES) days.push({ from, to, name: stretch.name });
      else left.add("further days");
    }
  }
  return { days: days.toSorted((a, b) => (a.from < b.from ? -1 : 1)), left: left.sentences() };
}

/** What could not be taken, by kind. */
class Left {
  private readonly kinds = new Map<string, number>();

  add(kind: string, n = 1): void {
    if (n > 0) this.kinds.set(kind, (this.kinds.get(kind) ?? 0) + n);
  }

  sentences(): string[] {
    return [...this.kinds].map(([kind, n]) => `${counted(n, "event")} left out: ${kind}.`);
  }
}

type Event = InstanceType<typeof ICAL.Component>;

function eventsOf(text: string): Event[] {
  try {
    const parsed = ICAL.parse(text.replace(/^\uFEFF?\s*/, "")) as unknown;
    // Several calendars may stand one behind the other in a file.
    const calendars = (
      Array.isArray((parsed as unknown[])[0]) ? parsed : [parsed]
    ) as ConstructorParameters<typeof ICAL.Component>[0][];
    return calendars.flatMap((one) => new ICAL.Component(one).getAllSubcomponents("vevent"));
  } catch (error) {
    const why = error instanceof Error ? error.message.slice(0, 120) : "";
    throw new RangeError(`The calendar file cannot be read: ${why}`);
  }
}

type Time = InstanceType<typeof ICAL.Time>;

const timeOf = (event: Event, name: string): Time | null => {
  const value: unknown = event.getFirstPropertyValue(name);
  return value instanceof ICAL.Time ? value : null;
};

const dayOf = (time: Time): Day =>
  [String(time.year).padStart(4, "0"), time.month, time.day]
    .map((part) => String(part).padStart(2, "0"))
    .join("-");

const isMidnight = (time: Time): boolean =>
  time.isDate || (time.hour === 0 && time.minute === 0 && time.second === 0);

/** The days of an event as they are the first time; why it is left out, where it is. */
function stretchOf(event: Event): { from: Day; length: number; name: string } | string {
  const start = timeOf(event, "dtstart");
  if (!start) return "no day on which it begins";
  if (String(event.getFirstPropertyValue("status") ?? "").toUpperCase() === "CANCELLED")
    return "it was cancelled";
  const end = timeOf(event, "dtend");
  if (!isMidnight(start) || (end && !isMidnight(end))) return "it lasts hours, not days";
  const days = lengthOf(event, start, end);
  if (days === null) return "it lasts hours, not days";
  if (days < 1) return "it ends before it begins";
  if (days > LONGEST) return "it lasts longer than a year";
  const name = String(event.getFirstPropertyValue("summary") ?? "").trim();
  return { from: dayOf(start), length: days, name: name.slice(0, LONGEST_NAME) };
}

/** In days; the day of the end does not belong to it (RFC 5545, 3.6.1). Null where it is none. */
function lengthOf(event: Event, start: Time, end: Time | null): number | null {
  if (end) return (Date.parse(dayOf(end)) - Date.parse(dayOf(start))) / 86_400_000;
  const duration: unknown = event.getFirstPropertyValue("duration");
  if (duration instanceof ICAL.Duration) {
    const seconds = duration.toSeconds();
    return seconds % 86_400 === 0 ? seconds / 86_400 : null;
  }
  return start.isDate ? 1 : null;
}

/** The days on which an event begins, that touch a stretch of time; why not, where it is not known. */
function startsOf(event: Event, first: Day, window: { from: Day; to: Day }): Day[] | string {
  const extra = daysIn(event, "rdate").filter((day) => day >= window.from && day <= window.to);
  const rules = event.getAllProperties("rrule");
  if (rules.length === 0) return [...new Set([first, ...extra])];
  if (rules.length > 1) return "it comes again by several rules; only its first day is taken";
  const value: unknown = rules[0].getFirstValue();
  const rule = value instanceof ICAL.Recur ? ruleOf(value) : null;
  if (!rule) return "it comes again by a rule that is not understood; only its first day is taken";
  return [...new Set([...daysOfRule(rule, first, window), ...extra])];
}

const WEEKDAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
const KNOWN_PARTS = new Set(["BYMONTH", "BYMONTHDAY", "BYDAY", "BYSETPOS"]);

/** A rule of the package as one of ours; null where it has a part that is not understood. */
function ruleOf(recur: InstanceType<typeof ICAL.Recur>): DayRule | null {
  const frequency = recur.freq as Frequency;
  const parts = recur.parts as Record<string, (string | number)[] | undefined>;
  if (!FREQUENCIES.includes(frequency)) return null;
  if (Object.keys(parts).some((name) => !KNOWN_PARTS.has(name))) return null;
  // Weeks that begin on another day fall together with ours but where they are skipped.
  if (frequency === "WEEKLY" && recur.interval > 1 && recur.wkst !== ICAL.Time.MONDAY) return null;
  const weekdays = (parts.BYDAY ?? []).map((text) => {
    const [, nth, name] = /^([+-]?\d{1,2})?([A-Z]{2})$/.exec(String(text)) ?? [];
    return { day: WEEKDAYS.indexOf(name), nth: nth === undefined ? null : Number(nth) };
  });
  const ordinals = frequency === "MONTHLY" || frequency === "YEARLY";
  if (weekdays.some(({ day, nth }) => day < 0 || nth === 0 || (nth !== null && !ordinals)))
    return null;
  return {
    frequency,
    interval: Math.max(1, recur.interval),
    count: recur.count ?? null,
    until: recur.until ? dayOf(recur.until) : null,
    months: (parts.BYMONTH ?? []).map(Number),
    monthDays: (parts.BYMONTHDAY ?? []).map(Number),
    weekdays,
    positions: (parts.BYSETPOS ?? []).map(Number),
  };
}

/** The days that stand in a property that may be there several times. */
function daysIn(event: Event, name: "exdate" | "rdate"): Day[] {
  return event
    .getAllProperties(name)
    .flatMap((property) => property.getValues() as unknown[])
    .flatMap((value) => (value instanceof ICAL.Time ? [dayOf(value)] : []));
}

/** Of events that come again, the days that one of them was moved away from. */
function movedDays(events: readonly Event[]): Map<Event, Day[]> {
  const byUid = new Map<string, Day[]>();
  for (const event of events) {
    const instead = timeOf(event, "recurrence-id");
    const uid = String(event.getFirstPropertyValue("uid") ?? "");
    if (instead) byUid.set(uid, [...(byUid.get(uid) ?? []), dayOf(instead)]);
  }
  return new Map(
    events
      .filter((event) => event.hasProperty("rrule"))
      .map((event) => [event, byUid.get(String(event.getFirstPropertyValue("uid") ?? "")) ?? []]),
  );
}
