import fc from "fast-check";
import {
  addDays,
  addMonths,
  isDay,
  readDay,
  readTime,
  weekdayOf,
  weeksOf,
} from "@/core/calendar/month";

const anyDay = fc
  .date({ min: new Date("1970-01-01"), max: new Date("2199-12-31"), noInvalidDate: true })
  .map((date) => date.toISOString().slice(0, 10));

// ISO 8601 begins weeks on Monday; the weekdays below are from the calendar on the wall.
test.each([
  ["2026-11-26", 3],
  ["2026-11-29", 6],
  ["2024-02-29", 3],
  ["2000-01-01", 5],
])("%s is weekday %i", (day, weekday) => expect(weekdayOf(day)).toBe(weekday));

test("November 2026 has six weeks on the wall, from the 26th of October to the 6th of December", () => {
  const weeks = weeksOf("2026-11-15");
  expect(weeks).toHaveLength(6);
  expect([weeks[0][0], weeks[5][6]]).toEqual(["2026-10-26", "2026-12-06"]);
});

test("February 2027 fits in four weeks", () => expect(weeksOf("2027-02-10")).toHaveLength(4));

test("a month's weeks have each of its days once, in order, and begin on Mondays", () => {
  fc.assert(
    fc.property(anyDay, (day) => {
      const weeks = weeksOf(day);
      const days = weeks.flat();
      expect(weeks.every((week) => week.length === 7 && weekdayOf(week[0]) === 0)).toBe(true);
      days.slice(1).forEach((each, i) => expect(each).toBe(addDays(days[i], 1)));
      const month = day.slice(0, 7);
      const inMonth = days.filter((each) => each.startsWith(month));
      expect(inMonth[0]).toBe(`${month}-01`);
      expect(addDays(inMonth[inMonth.length - 1], 1).slice(0, 7)).not.toBe(month);
      // No week without a day of the month.
      expect(weeks.every((week) => week.some((each) => each.startsWith(month)))).toBe(true);
    }),
  );
});

test.each([
  ["2026-01-31", 1, "2026-02-28"],
  ["2024-01-31", 1, "2024-02-29"],
  ["2026-03-31", -1, "2026-02-28"],
  ["2026-12-15", 1, "2027-01-15"],
  ["2026-01-15", -1, "2025-12-15"],
  ["2026-11-26", 12, "2027-11-26"],
])("%s and %i months is %s", (day, months, then) => expect(addMonths(day, months)).toBe(then));

test.each([
  ["2026-02-28", true],
  ["2026-02-29", false],
  ["2026-13-01", false],
  ["2026-1-1", false],
  ["28.02.2026", false],
  ["", false],
])("that %s is a day: %s", (text, is) => expect(isDay(text)).toBe(is));

test.each([
  ["2026-11-28", "2026-11-28"],
  [" 2026-11-28 ", "2026-11-28"],
  ["28.11.2026", "2026-11-28"],
  ["1. 2. 2027", "2027-02-01"],
  ["28 Nov 2026", "2026-11-28"],
  ["28. november 2026", "2026-11-28"],
  ["26 nov", "2026-11-26"],
  ["25 nov", "2027-11-25"],
  ["3 jan", "2027-01-03"],
  ["29 feb", "2028-02-29"],
  ["29 feb 2026", null],
  ["30 feb", null],
  ["31.11.2026", null],
  ["28 foo", null],
  ["0 nov", null],
  ["next week", null],
  ["", null],
])("what is typed as %s is read as %s", (text, day) =>
  expect(readDay(text, "2026-11-26")).toBe(day),
);

test("every day is read from each way in which it is written", () => {
  fc.assert(
    fc.property(anyDay, (day) => {
      const [year, month, date] = day.split("-").map(Number);
      const word = new Intl.DateTimeFormat("en", { month: "long", timeZone: "UTC" }).format(
        new Date(day),
      );
      for (const text of [day, `${date}.${month}.${year}`, `${date} ${word} ${year}`])
        expect(readDay(text, "2026-11-26")).toBe(day);
    }),
  );
});

test.each([
  ["9", "09:00"],
  ["9:30", "09:30"],
  ["0930", "09:30"],
  ["930", "09:30"],
  ["17.15", "17:15"],
  ["23:59", "23:59"],
  ["24:00", null],
  ["12:60", null],
  ["9:3", null],
  ["noon", null],
  ["", null],
])("the time %s is read as %s", (text, time) => expect(readTime(text)).toBe(time));
