import fc from "fast-check";
import { cutAt, HOUR, mergeIntervals, overlap, type Interval } from "@/core/calendar/instant";
import {
  afterWorkingTime,
  OFFICE_HOURS,
  workingCalendarSchema,
  workingTime,
  type WorkingCalendar,
} from "@/core/calendar/working-time";
import {
  dayNumber,
  dayStart,
  isDay,
  isoDate,
  isoWeek,
  parseIsoDate,
  wallClock,
  zoneOffset,
} from "@/core/calendar/zone";

const interval = fc
  .tuple(fc.nat(40), fc.option(fc.integer({ min: 0, max: 20 }), { nil: null }))
  .map(([from, length]): Interval => ({ from, to: length === null ? null : from + length }));

describe("intervals", () => {
  test("overlap as far as both go; open ends reach to now", () => {
    expect(overlap({ from: 0, to: 10 }, { from: 4, to: 20 }, 99)).toBe(6);
    expect(overlap({ from: 0, to: null }, { from: 4, to: 20 }, 8)).toBe(4);
    expect(overlap({ from: 5, to: 20 }, { from: 0, to: null }, 9)).toBe(4);
    expect(overlap({ from: 0, to: 3 }, { from: 4, to: 6 }, 99)).toBe(0);
  });

  test.each<[string, Interval, Interval[]]>([
    ["what ended before stays", { from: 1, to: 3 }, [{ from: 1, to: 3 }]],
    ["what ended later ends then", { from: 1, to: 9 }, [{ from: 1, to: 5 }]],
    ["what goes on ends then", { from: 1, to: null }, [{ from: 1, to: 5 }]],
    ["what began then had not begun", { from: 5, to: 9 }, []],
    ["what began later had not begun", { from: 6, to: null }, []],
    ["what ended then ended then", { from: 1, to: 5 }, [{ from: 1, to: 5 }]],
  ])("as known at an instant: %s", (_what, given, known) =>
    expect(cutAt([given], 5)).toEqual(known),
  );

  test("merged: out of order, touching, inside each other, apart", () => {
    expect(
      mergeIntervals(
        [
          { from: 20, to: 30 },
          { from: 0, to: 5 },
          { from: 5, to: 8 },
          { from: 1, to: 2 },
          { from: 25, to: null },
        ],
        40,
      ),
    ).toEqual([
      { from: 0, to: 8 },
      { from: 20, to: 40 },
    ]);
  });

  test("merged intervals are apart, in order, and hold exactly the instants of the given ones", () => {
    fc.assert(
      fc.property(fc.array(interval, { maxLength: 8 }), (given) => {
        const merged = mergeIntervals(given, 60);
        merged.slice(1).forEach((m, i) => expect(m.from).toBeGreaterThan(merged[i].to));
        for (let at = 0; at < 60; at++) {
          const held = (all: readonly Interval[]) =>
            all.some((i) => at >= i.from && at < (i.to ?? 60));
          expect(held(merged)).toBe(held(given));
        }
      }),
    );
  });
});

describe("a working calendar", () => {
  const faults = (calendar: unknown) => {
    const read = workingCalendarSchema.safeParse(calendar);
    return read.success ? [] : read.error.issues.map((i) => i.message);
  };
  const HOLIDAY = { date: "2026-12-25", name: "Quiet day" };

  test("office hours are one", () => expect(faults(OFFICE_HOURS)).toEqual([]));

  test("one day of work a week is enough, whichever", () => {
    const week = [null, null, null, null, null, { from: 0, to: 1 }, null];
    expect(faults({ week, holidays: [HOLIDAY] })).toEqual([]);
  });

  test.each([
    ["no day of work", { week: Array(7).fill(null), holidays: [] }, /day of work/],
    [
      "a day that ends as it begins",
      { ...OFFICE_HOURS, week: [...OFFICE_HOURS.week.slice(0, 6), { from: 60, to: 60 }] },
      /ends after it begins/,
    ],
    [
      "a day that ends before it begins",
      { ...OFFICE_HOURS, week: [{ from: 600, to: 60 }, ...OFFICE_HOURS.week.slice(1)] },
      /ends after it begins/,
    ],
    ["a day off twice", { ...OFFICE_HOURS, holidays: [HOLIDAY, HOLIDAY] }, /there twice/],
    ["a week of six days", { ...OFFICE_HOURS, week: OFFICE_HOURS.week.slice(1) }, /./],
    [
      "a day off that never is",
      { ...OFFICE_HOURS, holidays: [{ ...HOLIDAY, date: "2026-02-30" }] },
      /./,
    ],
  ])("%s is refused, once, in words", (_what, calendar, words) => {
    expect(faults(calendar)).toEqual([expect.stringMatching(words)]);
  });

  const MONDAY = Date.UTC(2026, 10, 23);
  const at = (day: number, hour: number) => MONDAY + day * 24 * HOUR + hour * HOUR;

  test("time that passes backwards or not at all is none", () => {
    expect(workingTime(OFFICE_HOURS, at(0, 12), at(0, 10), "UTC")).toBe(0);
    expect(workingTime(OFFICE_HOURS, at(0, 12), at(0, 12), "UTC")).toBe(0);
  });

  test("no time has passed at once, even outside of work", () => {
    expect(afterWorkingTime(OFFICE_HOURS, at(5, 3), 0, "UTC")).toBe(at(5, 3));
  });

  test("what fills a day to its end ends there, not on the next morning", () => {
    expect(afterWorkingTime(OFFICE_HOURS, at(0, 9), 8 * HOUR, "UTC")).toBe(at(0, 17));
    expect(afterWorkingTime(OFFICE_HOURS, at(0, 17), 1, "UTC")).toBe(at(1, 9) + 1);
    expect(afterWorkingTime(OFFICE_HOURS, at(0, 18), HOUR, "UTC")).toBe(at(1, 10));
  });

  test("a calendar of few hours leads nowhere after ten years", () => {
    const oneMinute: WorkingCalendar = {
      week: [{ from: 0, to: 1 }, null, null, null, null, null, null],
      holidays: [],
    };
    // 3,660 days from a Monday have 523 Mondays, the first included.
    expect(afterWorkingTime(oneMinute, at(0, 0), 523 * 60_000, "UTC")).toBe(
      at(522 * 7, 0) + 60_000,
    );
    expect(afterWorkingTime(oneMinute, at(0, 0), 523 * 60_000 + 1, "UTC")).toBeNull();
  });
});

// The clocks of these zones are from the IANA time zone database (zdump -v).
describe("days of a zone", () => {
  test("a day begins where its clocks do, on both sides of a change", () => {
    // Europe/London: forward on 2026-03-29 at 01:00 UTC, back on 2026-10-25 at 01:00 UTC.
    const change = Date.UTC(2026, 2, 29, 1);
    expect(zoneOffset(change - 1, "Europe/London")).toBe(0);
    expect(zoneOffset(change, "Europe/London")).toBe(HOUR);
    expect(zoneOffset(Date.UTC(2026, 9, 25, 1) - 1, "Europe/London")).toBe(HOUR);
    expect(zoneOffset(Date.UTC(2026, 9, 25, 1), "Europe/London")).toBe(0);
    // Asked in another order, and for another zone in between, they say the same.
    expect(zoneOffset(change, "Asia/Tokyo")).toBe(9 * HOUR);
    expect(zoneOffset(change, "Europe/London")).toBe(HOUR);
  });

  test("a zone without changes is the same for ever", () => {
    expect(zoneOffset(-8e14, "UTC")).toBe(0);
    expect(zoneOffset(8e14, "UTC")).toBe(0);
  });

  test("a time that is skipped is as far after the change as it was after the hour before", () => {
    const day = parseIsoDate("2026-03-29");
    expect(wallClock(day, 90, "Europe/London")).toBe(Date.UTC(2026, 2, 29, 1, 30));
    // Twice there, the first counts.
    expect(wallClock(parseIsoDate("2026-10-25"), 90, "Europe/London")).toBe(
      Date.UTC(2026, 9, 25, 0, 30),
    );
    expect(wallClock(day, 1440, "Europe/London")).toBe(dayStart(day + 1, "Europe/London"));
  });

  test("Apia left out the 30th of December 2011", () => {
    const day = parseIsoDate("2011-12-30");
    expect(isDay(day - 1, "Pacific/Apia")).toBe(true);
    expect(isDay(day, "Pacific/Apia")).toBe(false);
    expect(isDay(day + 1, "Pacific/Apia")).toBe(true);
    expect(dayStart(day, "Pacific/Apia")).toBe(dayStart(day + 1, "Pacific/Apia"));
  });

  test("thousands of days asked one after the other begin in order", () => {
    const first = parseIsoDate("2010-01-01");
    for (let day = first; day < first + 4_500; day++) {
      const start = dayStart(day, "Europe/London");
      expect(dayNumber(start, "Europe/London")).toBe(day);
      expect(dayNumber(start - 1, "Europe/London")).toBe(day - 1);
    }
  });

  test.each(["2026-02-30", "x2026-02-03", "2026-02-03T00", "02-03", "", "+002026-02-03"])(
    "%p is no date, and that is said",
    (text) => expect(() => parseIsoDate(text)).toThrow(`not a date: ${text}`),
  );

  test("every day number has one date, read back as it was", () => {
    fc.assert(
      fc.property(fc.integer({ min: -200_000, max: 200_000 }), (day) => {
        expect(parseIsoDate(isoDate(day))).toBe(day);
      }),
    );
  });

  // From the examples of ISO 8601 about years that begin in another's week.
  test.each([
    ["2005-01-01", 2004, 53],
    ["2005-12-31", 2005, 52],
    ["2007-01-01", 2007, 1],
    ["2008-12-29", 2009, 1],
    ["2010-01-03", 2009, 53],
  ])("%s is in week %i/%i", (date, year, week) =>
    expect(isoWeek(parseIsoDate(date))).toEqual({ year, week }),
  );
});
