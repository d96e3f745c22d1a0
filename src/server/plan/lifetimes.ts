import type { Days, DayNumber, Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart } from "@/core/calendar/zone";
import { ageOf } from "@/core/flow/age";
import { delivered, timed } from "@/core/flow/measures";
import { LEAST_FINISHED } from "@/core/forecast/reach";
import { chanceWithin, survivalCurve, type SurvivalStep } from "@/core/forecast/survival";
import type { Reader } from "@/db/connection";
import { readDepartures, readRunning } from "../flow/facts";

/** The ages of what is in progress are held against what was delivered in so many days. */
const LIFETIMES_DAYS = 182;

/** From when on what was delivered says how long items last. */
export const lifetimesFrom = (today: DayNumber): DayNumber => today - LIFETIMES_DAYS;

/** How long items last: those that were delivered, and those that have not ended yet. */
export const lifetimesCurve = (
  lately: readonly { days: Days }[],
  ages: readonly Days[],
): SurvivalStep[] =>
  survivalCurve([
    ...lately.map(({ days }) => ({ days, ended: true })),
    ...ages.map((days) => ({ days, ended: false })),
  ]);

/** The chance that an item of an age ends within so many days more; null where nothing says it. */
export type Chances = (age: Days, more: number) => number | null;

/** The chances of what is in progress in a project, by its own past; none where that is too little. */
export async function readChances(
  reader: Reader,
  project: { id: string; zone: string },
  now: Instant,
): Promise<Chances> {
  const { zone } = project;
  const today = dayNumber(now, zone);
  const period = { from: dayStart(lifetimesFrom(today), zone), to: dayStart(today, zone) };
  const lately = delivered(timed(await readDepartures(reader, { project }, period), zone));
  if (lately.length < LEAST_FINISHED) return () => null;
  const running = await readRunning(reader, { project });
  const curve = lifetimesCurve(
    lately,
    running.map(({ clock }) => ageOf(clock, zone, now).age),
  );
  return (age, more) => chanceWithin(curve, age, more);
}
