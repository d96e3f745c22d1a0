import { addDays, weekdayOf, type Day } from "@/core/calendar/month";
import type { WorkingDays } from "./room";

/*
 * How full the weeks of somebody are: what they have in hand and what is planned for them, spread over
 * the days on which they work, against the hours of those days that go into what is planned.
 */

/** Work that somebody has, with the days on which it is to be done. */
export interface Work {
  id: string;
  /** Still to be done; null where nobody knows. */
  hours: number | null;
  /** Both days belong to it; null: from today on, as long as it takes. */
  from: Day | null;
  to: Day | null;
}

/** A day of somebody, with the hours of it that go into what is planned. */
export interface RoomDay {
  day: Day;
  hours: number;
}

/** The days of a stretch, with the hours that somebody gives to what is planned. */
export function roomDays(
  { workDays, daysOff, hoursADay, share }: WorkingDays & { hoursADay: number; share: number },
  { from, to }: { from: Day; to: Day },
  holidays: ReadonlySet<Day>,
): RoomDay[] {
  const days: RoomDay[] = [];
  for (let day = from; day <= to; day = addDays(day, 1)) {
    const off =
      !workDays.includes(weekdayOf(day)) ||
      holidays.has(day) ||
      daysOff.some((one) => one.from <= day && day <= one.to);
    days.push({ day, hours: off ? 0 : hoursADay * share });
  }
  return days;
}

/** What falls on a day. */
export interface DayLoad {
  hours: number;
  ids: string[];
}

/**
 * How much work falls on which day. What has days is spread evenly over those that are left of them,
 * and on which its person works; what is late, or falls on days on which they do not work, is for the
 * first day on which they do. What has none begins today and takes the room of each day until it is
 * done.
 * @param days from today on, in their order
 */
export function loadByDay(
  work: readonly Work[],
  days: readonly RoomDay[],
): ReadonlyMap<Day, DayLoad> {
  const load = new Map<Day, DayLoad>();
  const working = days.filter(({ hours }) => hours > 0);
  if (working.length === 0) return load;
  const put = (day: Day, id: string, hours: number) => {
    const at = load.get(day) ?? { hours: 0, ids: [] };
    load.set(day, { hours: at.hours + hours, ids: [...at.ids, id] });
  };
  for (const { id, hours, from, to } of work) {
    const first = days[0].day;
    if (from === null || to === null) {
      takeRoom(working, hours ?? 0, (day, part) => put(day, id, part));
      continue;
    }
    if (from > days.at(-1)!.day) continue;
    const own = working.filter(({ day }) => day >= from && day <= to);
    // What reaches behind the days that are looked at falls on these only in part.
    const beyond = to > days.at(-1)!.day;
    const [whole, left] = [stretchLength(from < first ? first : from, to), own.length];
    if (left === 0) {
      const late = working.find(({ day }) => day >= from) ?? working[0];
      put(late.day, id, hours ?? 0);
      continue;
    }
    const share = beyond ? Math.min(1, stretchLength(own[0].day, days.at(-1)!.day) / whole) : 1;
    for (const { day } of own) put(day, id, ((hours ?? 0) * share) / left);
  }
  return load;
}

const stretchLength = (from: Day, to: Day): number =>
  Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000) + 1;

/** Takes the room of each day until so many hours are gone; at least the first day is touched. */
function takeRoom(
  days: readonly RoomDay[],
  hours: number,
  put: (day: Day, hours: number) => void,
): void {
  let left = hours;
  for (const { day, hours: room } of days) {
    const part = Math.min(left, room);
    put(day, part);
    left -= part;
    if (left <= 0) return;
  }
}

/** Somebody who could take an item. */
export interface Candidate {
  id: string;
  name: string;
  /** Hours free in the time that counts; below nothing where they have too much. */
  free: number;
  /** Whether they are away in all of it. */
  away: boolean;
  /** What of the like they have finished. */
  similar: number;
}

/**
 * Who could take an item, the best first: who has room before who has none, and of those who has
 * finished more of the like, then who has more room. Who is away in all that time is left out.
 * @param hours that the item takes
 */
export function takers<C extends Candidate>(candidates: readonly C[], hours: number): C[] {
  const fits = ({ free }: Candidate) => free >= hours;
  return candidates
    .filter(({ away }) => !away)
    .toSorted(
      (a, b) =>
        Number(fits(b)) - Number(fits(a)) ||
        b.similar - a.similar ||
        b.free - a.free ||
        (a.name < b.name ? -1 : 1),
    );
}
