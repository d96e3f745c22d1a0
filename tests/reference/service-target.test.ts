import fc from "fast-check";
import { DAY, HOUR, MINUTE } from "@/core/calendar/instant";
import {
  afterWorkingTime,
  OFFICE_HOURS,
  workingCalendarSchema,
  workingTime,
  workOfDay,
  type WorkingCalendar,
} from "@/core/calendar/working-time";
import { dayNumber, parseIsoDate, wallClock } from "@/core/calendar/zone";
import { EVERY_ITEM } from "@/core/condition/condition";
import {
  serviceTargetSchema,
  targetState,
  targetWords,
  type Promised,
} from "@/core/intake/service-target";
import { runs } from "@tests/core/setup/runs";

/*
 * Working time across the changes of clock, by the IANA zone rules: in Europe/London the clocks
 * went forward at 01:00Z on 29 March 2026 and back at 01:00Z on 25 October 2026; Lord Howe Island
 * changes by half an hour; Asia/Kolkata never.
 */

const LONDON = "Europe/London";
const NIGHT: WorkingCalendar = { week: Array(7).fill({ from: 0, to: 24 * 60 }), holidays: [] };
const at = (iso: string) => Date.parse(iso);

describe("working hours are those that the clocks on the wall show", () => {
  test.each([
    ["a plain Monday", "2026-03-23", 8],
    ["a Saturday", "2026-03-28", 0],
    ["the Monday after the clocks went forward", "2026-03-30", 8],
  ])("%s, %s: %d hours", (_what, date, hours) => {
    const day = parseIsoDate(date);
    expect(
      workingTime(OFFICE_HOURS, wallClock(day, 0, LONDON), wallClock(day + 1, 0, LONDON), LONDON),
    ).toBe(hours * HOUR);
  });
  test.each([
    ["London, forward", "2026-03-29", LONDON, 23],
    ["London, back", "2026-10-25", LONDON, 25],
    ["Lord Howe, forward", "2026-10-04", "Australia/Lord_Howe", 23.5],
    ["Kolkata", "2026-03-29", "Asia/Kolkata", 24],
  ])("%s: a whole day of %s has %d hours", (_what, date, zone, hours) => {
    const work = workOfDay(NIGHT, parseIsoDate(date), zone)!;
    expect((work.to - work.from) / HOUR).toBe(hours);
  });
  test("nine o'clock is nine o'clock on both sides of a change", () => {
    expect(wallClock(parseIsoDate("2026-03-27"), 9 * 60, LONDON)).toBe(at("2026-03-27T09:00:00Z"));
    expect(wallClock(parseIsoDate("2026-03-30"), 9 * 60, LONDON)).toBe(at("2026-03-30T08:00:00Z"));
    expect(wallClock(parseIsoDate("2026-03-29"), 90, LONDON)).toBe(at("2026-03-29T01:30:00Z"));
  });
  test("ten working hours from Friday four o'clock end on Tuesday at ten", () => {
    expect(afterWorkingTime(OFFICE_HOURS, at("2026-03-27T16:00:00Z"), 10 * HOUR, LONDON)).toBe(
      at("2026-03-31T09:00:00Z"),
    );
    const bank = { ...OFFICE_HOURS, holidays: [{ date: "2026-03-30", name: "Storm day" }] };
    expect(afterWorkingTime(bank, at("2026-03-27T16:00:00Z"), 10 * HOUR, LONDON)).toBe(
      at("2026-04-01T09:00:00Z"),
    );
  });
  test("a calendar without a day of work, or with a day that ends before it begins, is none; and no search is endless", () => {
    expect(
      workingCalendarSchema.safeParse({ week: Array(7).fill(null), holidays: [] }).success,
    ).toBe(false);
    expect(
      workingCalendarSchema.safeParse({
        week: [{ from: 900, to: 800 }, null, null, null, null, null, null],
        holidays: [],
      }).success,
    ).toBe(false);
    expect(afterWorkingTime({ week: Array(7).fill(null), holidays: [] }, 0, 1, "UTC")).toBeNull();
  });
});

const anyCalendar: fc.Arbitrary<WorkingCalendar> = fc
  .record({
    week: fc.array(
      fc.option(
        fc
          .tuple(fc.nat(1_439), fc.nat(1_440))
          .filter(([a, b]) => a < b)
          .map(([from, to]) => ({ from, to })),
      ),
      { minLength: 7, maxLength: 7 },
    ),
    holidays: fc.constantFrom([], [{ date: "2026-03-30", name: "" }]),
  })
  .filter((c) => c.week.some((d) => d !== null));
const anyInstant = fc
  .integer({ min: at("2026-03-20T00:00:00Z") / MINUTE, max: at("2026-11-02T00:00:00Z") / MINUTE })
  .map((m) => m * MINUTE);
const anyZone = fc.constantFrom(LONDON, "Australia/Lord_Howe", "America/St_Johns", "UTC");

test("working time adds up, never exceeds the time passed, and is the way back of counting on", () => {
  fc.assert(
    fc.property(
      anyCalendar,
      anyInstant,
      anyInstant,
      anyInstant,
      anyZone,
      (calendar, x, y, w, zone) => {
        const [a, b, c] = [x, y, w].sort((m, n) => m - n);
        const time = (from: number, to: number) => workingTime(calendar, from, to, zone);
        expect(time(a, b) + time(b, c)).toBe(time(a, c));
        expect(time(a, c)).toBeLessThanOrEqual(c - a);
        const due = afterWorkingTime(calendar, a, time(a, c), zone)!;
        expect(due).toBeLessThanOrEqual(c);
        expect(time(a, due)).toBe(time(a, c));
      },
    ),
    { numRuns: runs(60) },
  );
});

test("working time is what counting every minute gives", () => {
  fc.assert(
    fc.property(
      anyCalendar,
      fc.integer({ min: 0, max: 3_000 }),
      anyZone,
      (calendar, length, zone) => {
        const from = at("2026-03-28T00:00:00Z");
        let minutes = 0;
        for (let m = 0; m < length; m++) {
          const now = from + m * MINUTE;
          const work = workOfDay(calendar, dayNumber(now, zone), zone);
          if (work && now >= work.from && now < work.to) minutes += 1;
        }
        expect(workingTime(calendar, from, from + length * MINUTE, zone)).toBe(minutes * MINUTE);
      },
    ),
    { numRuns: runs(25) },
  );
});

describe("a promise", () => {
  const monday = at("2026-06-01T08:00:00Z"); // nine o'clock in London
  const state = (hours: number, working: boolean, promised: Partial<Promised>, now: number) =>
    targetState(
      hours,
      working,
      { since: monday, metAt: null, paused: [], ...promised },
      { calendar: OFFICE_HOURS, zone: LONDON, now },
    );
  test.each<[string, number, boolean, Partial<Promised>, number, string, string]>([
    ["runs", 8, true, {}, 2, "on time", "6 working h left"],
    ["is at risk in its last quarter", 8, true, {}, 6.5, "at risk", "1.5 working h left"],
    ["does not run at night", 8, true, {}, 8 + 15, "at risk", "0 working min left"],
    ["is missed the next morning", 8, true, {}, 8 + 16 + 1, "missed", "missed by 1 working h"],
    ["runs at night by the clock", 24, false, {}, 25, "missed", "missed by 1 h"],
    ["is kept", 8, true, { metAt: monday + 5 * HOUR }, 400, "kept", "kept, 3 working h to spare"],
    [
      "is kept on its last minute",
      8,
      true,
      { metAt: monday + 8 * HOUR },
      400,
      "kept",
      "kept, 0 working min to spare",
    ],
    [
      "stands still while the requester is asked",
      8,
      true,
      { paused: [{ from: monday + 2 * HOUR, to: null }] },
      500,
      "paused",
      "stands still, 6 working h left",
    ],
    [
      "goes on where it stood",
      8,
      true,
      { paused: [{ from: monday + 2 * HOUR, to: monday + DAY }] },
      24 + 3,
      "on time",
      "3 working h left",
    ],
    [
      "counts overlapping questions once",
      24,
      false,
      {
        paused: [
          { from: monday, to: monday + 4 * HOUR },
          { from: monday + 2 * HOUR, to: monday + 6 * HOUR },
        ],
      },
      10,
      "on time",
      "20 h left",
    ],
    [
      "tells long working time in hours, never in days",
      400,
      true,
      {},
      0,
      "on time",
      "400 working h left",
    ],
    ["tells long time by the clock in days", 400, false, {}, 0, "on time", "16.7 days left"],
  ])("%s", (_what, hours, working, promised, after, standing, words) => {
    const result = state(hours, working, promised, monday + after * HOUR);
    expect([result.standing, targetWords(result)]).toEqual([standing, words]);
  });
  test("what an hour a week leads to in more than ten years is due on no day, and nothing breaks over it", () => {
    const rare: WorkingCalendar = {
      week: [{ from: 600, to: 660 }, null, null, null, null, null, null],
      holidays: [],
    };
    const promise = { since: monday, metAt: null, paused: [] };
    expect(
      targetState(10_000, true, promise, { calendar: rare, zone: LONDON, now: monday }),
    ).toMatchObject({ standing: "on time", dueAt: null });
    expect(
      targetState(2, true, promise, { calendar: rare, zone: LONDON, now: monday }).dueAt,
    ).not.toBeNull();
  });
  test("is due when its time is over, pauses left aside, as long as nothing pauses it again", () => {
    expect(
      state(8, true, { paused: [{ from: monday + 2 * HOUR, to: monday + DAY }] }, monday + DAY)
        .dueAt,
    ).toBe(monday + DAY + 6 * HOUR);
    expect(
      state(8, true, { paused: [{ from: monday + 2 * HOUR, to: monday + DAY }] }, monday + 9 * DAY)
        .dueAt,
    ).toBe(monday + DAY + 6 * HOUR);
    expect(state(2, false, {}, monday).dueAt).toBe(monday + 2 * HOUR);
  });
  test("whose time ran out as the day ended was due then, also when one looks at night", () => {
    expect(
      [9, 12, 20].map((hour) => (state(8, true, {}, monday + hour * HOUR).dueAt! - monday) / HOUR),
    ).toEqual([8, 8, 8]);
  });
  test("what is open is due at one instant, whenever one looks, until somebody is asked", () => {
    fc.assert(
      fc.property(
        anyCalendar,
        anyInstant,
        fc.integer({ min: 1, max: 200 }),
        fc.boolean(),
        fc.tuple(fc.nat(50), fc.nat(50), fc.nat(50)),
        anyZone,
        (calendar, since, hours, working, [pause, resumed, later], zone) => {
          const paused = [{ from: since + pause * HOUR, to: since + (pause + resumed) * HOUR }];
          const from = since + (pause + resumed) * HOUR;
          const at = (now: number) =>
            targetState(hours, working, { since, metAt: null, paused }, { calendar, zone, now });
          const [early, late] = [at(from), at(from + later * HOUR)];
          fc.pre(early.dueAt !== null);
          // Asked in the very instant in which it is due, its time is over and nothing is exceeded
          // until the answer comes: then it is neither the one nor the other.
          fc.pre(pause !== hours || later > 0);
          expect(late.dueAt).toBe(early.dueAt);
          if (late.standing === "missed" || !working)
            expect(late.standing === "missed").toBe(from + later * HOUR > early.dueAt!);
        },
      ),
      { numRuns: runs(200) },
    );
  });
  test.each([
    [null, null],
    [8, 4],
  ])("that promises %s and %s is none", (answerHours, resolveHours) =>
    expect(
      serviceTargetSchema.safeParse({
        id: "t",
        name: "x",
        condition: EVERY_ITEM,
        answerHours,
        resolveHours,
        working: true,
      }).success,
    ).toBe(false),
  );
});
