import { addDays, weekdayOf, type Day } from "@/core/calendar/month";
import { ascending, quantile } from "@/core/flow/quantile";

/*
 * How much a sprint can take, by the days on which its people work (room), and how much is planned
 * into it (load).
 */

/** When somebody works: on which weekdays, 0 is Monday, and on which stretches not. */
export interface WorkingDays {
  workDays: readonly number[];
  daysOff: readonly { from: Day; to: Day }[];
}

/** Both days belong to it. */
export interface Stretch {
  from: Day;
  to: Day;
}

/** So much of their time people give to what is planned, where nobody has recorded any. */
export const ASSUMED_FOCUS = 0.6;

const within = (day: Day, { from, to }: Stretch): boolean => from <= day && day <= to;

/**
 * On how many days of a stretch somebody works, and on how many that they usually would they are off.
 * @param holidays of the project
 */
export function daysAtWork(
  { workDays, daysOff }: WorkingDays,
  stretch: Stretch,
  holidays: ReadonlySet<Day>,
): { days: number; off: number } {
  let [days, off] = [0, 0];
  for (let day = stretch.from; day <= stretch.to; day = addDays(day, 1)) {
    if (!workDays.includes(weekdayOf(day)) || holidays.has(day)) continue;
    if (daysOff.some((one) => within(day, one))) off += 1;
    else days += 1;
  }
  return { days, off };
}

/** What a past sprint came to, with how many days its people could work in it. */
export interface PastRoom {
  velocity: number;
  days: number;
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, one) => sum + one, 0) / values.length;

/**
 * How many points a sprint can take: the mean velocity of past ones, by the days at work in it against
 * the mean of those. No share of focus comes on top: the velocity has it in it.
 * @returns null where nothing has ended, or nobody worked in what has
 */
export function roomInPoints(past: readonly PastRoom[], days: number): number | null {
  if (past.length === 0) return null;
  const usual = mean(past.map((one) => one.days));
  if (usual === 0) return null;
  return (mean(past.map((one) => one.velocity)) * days) / usual;
}

/** In a past sprint: hours recorded on what was in it, and hours at work. */
export interface FocusPast {
  recorded: number;
  available: number;
}

/** Which share of the hours at work goes into what is planned, and how that is known. */
export interface Focus {
  share: number;
  by: "person" | "team" | "assumed";
}

/**
 * The share of the hours at work that went into what was in past sprints: the median of them, so
 * that one odd sprint does not count much.
 * @returns null where nobody recorded anything, or nobody was at work
 */
export function focusShare(past: readonly FocusPast[]): number | null {
  const worked = past.filter(({ available }) => available > 0);
  if (worked.every(({ recorded }) => recorded === 0)) return null;
  const shares = ascending(worked.map(({ recorded, available }) => recorded / available));
  return quantile(shares, 0.5, 2);
}

/** By what a person recorded, else their team, else as is usual. */
export function focusOf(own: readonly FocusPast[], team: readonly FocusPast[]): Focus {
  const mine = focusShare(own);
  if (mine !== null) return { share: mine, by: "person" };
  const ours = focusShare(team);
  if (ours !== null) return { share: ours, by: "team" };
  return { share: ASSUMED_FOCUS, by: "assumed" };
}

/**
 * How many hours a point takes, by past sprints and the share of the hours at work in them that goes
 * into what is planned: for what nobody has said hours of.
 */
export function hoursPerPoint(
  past: readonly { velocity: number; available: number }[],
  focus: number,
): number | null {
  const points = past.reduce((sum, { velocity }) => sum + velocity, 0);
  if (points === 0) return null;
  return (past.reduce((sum, { available }) => sum + available, 0) * focus) / points;
}

/** What of an item says how much work it still is. */
export interface Loading {
  hoursLeft: number | null;
  points: number | null;
}

/**
 * How many days of work some items still are: by the hours that are left, else by their size; what
 * has neither counts nothing, and is said.
 * @param perPoint hours that a point takes
 */
export function loadInDays(
  items: readonly Loading[],
  { hoursADay, perPoint }: { hoursADay: number; perPoint: number | null },
): { days: number; about: boolean; unsized: number } {
  let days = 0;
  let about = false;
  let unsized = 0;
  for (const { hoursLeft, points } of items) {
    if (hoursLeft !== null) days += hoursLeft / hoursADay;
    else if (points !== null && perPoint !== null) {
      days += (points * perPoint) / hoursADay;
      about = true;
    } else unsized += 1;
  }
  return { days, about, unsized };
}

/**
 * The hours that some items still take, against those that people give to what is planned.
 * @param people with the days on which they are at work
 * @param perPoint hours that a point takes
 */
export function hoursAgainstRoom(
  items: readonly Loading[],
  people: readonly { days: number; hoursADay: number; focus: Focus }[],
  perPoint: number | null,
): { load: number; room: number; about: boolean } {
  const { days: load, about } = loadInDays(items, { hoursADay: 1, perPoint });
  const room = people.reduce((sum, one) => sum + one.days * one.hoursADay * one.focus.share, 0);
  return { load: Math.round(load), room: Math.round(room), about };
}

/**
 * Which items to push on so that a sprint takes no more than it can: the last by rank first, until so
 * many points are gone. What is begun, or has no points, stays.
 * @param items in the order of their rank
 */
export function pushedOn<T extends { points: number | null; begun: boolean }>(
  items: readonly T[],
  over: number,
): T[] {
  const pushed: T[] = [];
  let left = over;
  for (const item of items.toReversed()) {
    if (left <= 0) break;
    if (item.begun || !item.points) continue;
    pushed.push(item);
    left -= item.points;
  }
  return pushed;
}
