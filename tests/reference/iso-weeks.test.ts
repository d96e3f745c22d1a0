import { readFileSync } from "node:fs";
import path from "node:path";
import { weekdayOf } from "@/core/calendar/month";
import { mondayOf, weekNumber } from "@/core/time/week";

/* Held against Python's calendar; iso-weeks.py says how iso-weeks.json was made. */
const WEEKS = JSON.parse(readFileSync(path.join(__dirname, "iso-weeks.json"), "utf8")) as Record<
  string,
  number
>;

test("weeks have the numbers that ISO 8601 gives them, around each turn of the year", () => {
  expect(Object.keys(WEEKS).length).toBeGreaterThan(1_200);
  const wrong = Object.entries(WEEKS).filter(([day, week]) => weekNumber(day) !== week);
  expect(wrong).toEqual([]);
});

test("a week begins on its Monday", () => {
  for (const day of Object.keys(WEEKS)) {
    const monday = mondayOf(day);
    expect(weekdayOf(monday)).toBe(0);
    expect(monday <= day && weekNumber(monday) === WEEKS[day]).toBe(true);
  }
});
