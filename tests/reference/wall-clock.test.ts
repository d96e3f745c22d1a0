import { readFileSync } from "node:fs";
import path from "node:path";
import { MINUTE } from "@/core/calendar/instant";
import { workOfDay, type WorkingCalendar } from "@/core/calendar/working-time";
import { dayNumber, dayStart, isDay, wallClock, zoneOffset } from "@/core/calendar/zone";

/*
 * Held against Python's zoneinfo, minute by minute; wall-clock.py says how wall-clock.json was
 * made.
 */

interface Case {
  zone: string;
  year: number;
  /** [first minute of the year, minutes ahead of UTC] */
  local: [number, number][];
  utc: [number, number][];
  /** Days of the year, from 1. */
  daysLeftOut: number[];
}
const CASES = JSON.parse(readFileSync(path.join(__dirname, "wall-clock.json"), "utf8")) as Case[];
const DAY_MINUTES = 1_440;

function* minutesOf(
  runs: readonly [number, number][],
  year: number,
): Generator<[minute: number, ahead: number]> {
  const count = (Date.UTC(year + 1, 0, 1) - Date.UTC(year, 0, 1)) / MINUTE;
  for (const [i, [from, ahead]] of runs.entries())
    for (let minute = from; minute < (runs[i + 1]?.[0] ?? count); minute++) yield [minute, ahead];
}

describe.each(CASES.map((c) => [`${c.zone} ${c.year}`, c] as const))(
  "%s",
  (_name, { zone, year, local, utc, daysLeftOut }) => {
    const start = Date.UTC(year, 0, 1);

    test("each minute of UTC is as far from local time, and on that day", () => {
      const wrong: number[] = [];
      for (const [minute, ahead] of minutesOf(utc, year)) {
        const instant = start + minute * MINUTE;
        if (
          zoneOffset(instant, zone) !== ahead * MINUTE ||
          dayNumber(instant, zone) !==
            Math.floor((instant + ahead * MINUTE) / (DAY_MINUTES * MINUTE))
        )
          wrong.push(minute);
      }
      expect(wrong).toEqual([]);
    });

    test("each minute of local time is that instant: the first of two, and counted on where it is skipped", () => {
      const wrong: number[] = [];
      const first = start / (DAY_MINUTES * MINUTE);
      // Every minute within a day of a change, and every sixth hour of the others: asking costs
      // more than looking up.
      const changes = local.slice(1).map(([minute]) => minute);
      for (const [minute, ahead] of minutesOf(local, year)) {
        if (minute % 360 !== 0 && !changes.some((c) => Math.abs(c - minute) < DAY_MINUTES))
          continue;
        const instant = wallClock(
          first + Math.floor(minute / DAY_MINUTES),
          minute % DAY_MINUTES,
          zone,
        );
        if (instant !== start + (minute - ahead) * MINUTE) wrong.push(minute);
      }
      expect(wrong).toEqual([]);
    });

    test("days that never were have no hours; all others begin when they begin", () => {
      const always: WorkingCalendar = {
        week: Array(7).fill({ from: 0, to: DAY_MINUTES }),
        holidays: [],
      };
      const first = start / (DAY_MINUTES * MINUTE);
      const leftOut: number[] = [];
      for (let day = 2; day < 365; day++) {
        if (!isDay(first + day - 1, zone)) leftOut.push(day);
        expect(workOfDay(always, first + day - 1, zone) === null).toBe(daysLeftOut.includes(day));
      }
      expect(leftOut).toEqual(daysLeftOut);
    });

    test("a day begins at its first instant", () => {
      const first = start / (DAY_MINUTES * MINUTE);
      for (let day = first; day < first + 365; day++) {
        if (!isDay(day, zone)) continue;
        expect(dayNumber(dayStart(day, zone), zone)).toBe(day);
        expect(dayNumber(dayStart(day, zone) - 1, zone)).toBeLessThan(day);
      }
    });
  },
);
