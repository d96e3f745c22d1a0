import { readFileSync } from "node:fs";
import path from "node:path";
import { readDays } from "@/core/calendar/ics-read";

/* Held against python3-dateutil; recurrence.py says how recurrence.json was made. */
const ROWS = JSON.parse(readFileSync(path.join(__dirname, "recurrence.json"), "utf8")) as {
  rule: string;
  start: string;
  days: string[];
}[];

const calendarOf = (start: string, rule: string) =>
  [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "BEGIN:VEVENT",
    "UID:1",
    `DTSTART;VALUE=DATE:${start.replaceAll("-", "")}`,
    "SUMMARY:Away",
    `RRULE:${rule}`,
    "END:VEVENT",
    "END:VCALENDAR",
    "",
  ].join("\r\n");

test("what comes again falls on the days that another program finds", () => {
  expect(ROWS.length).toBeGreaterThan(200);
  expect(ROWS.filter(({ days }) => days.length > 0).length).toBeGreaterThan(120);
  const wrong = ROWS.filter(({ rule, start, days }) => {
    const read = readDays(calendarOf(start, rule), { from: "2025-07-01", to: "2026-03-31" });
    return read.left.length > 0 || read.days.map(({ from }) => from).join() !== days.join();
  });
  expect(wrong.map(({ rule, start }) => `${start} ${rule}`)).toEqual([]);
});
