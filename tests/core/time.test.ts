import fc from "fast-check";
import { decideTime } from "@/core/time/decide-time";
import { amountWords, isInDays, readAmount } from "@/core/time/amount";
import { entryProblem, leftAfter, MOST_MINUTES, type TimeEntry } from "@/core/time/entry";
import { againstFirst, timeSums, type TimeOfItem } from "@/core/time/sums";
import { weekDays } from "@/core/time/week";
import { isRefusal } from "@/core/workflow/refusal";

describe("an amount of time", () => {
  test.each([
    ["90 min", 90],
    ["90min", 90],
    ["1.5 h", 90],
    ["1,5 h", 90],
    ["1 h 30 min", 90],
    ["1h30m", 90],
    ["1 hour, 30 minutes", 90],
    ["1 hour and 30 minutes", 90],
    ["1:30", 90],
    ["0:05", 5],
    ["2 days", 900],
    ["1 d 1 h", 510],
    ["0.5 day", 225],
    ["  2 H ", 120],
  ])("“%s” is %i minutes, by a working day of seven and a half hours", (text, minutes) =>
    expect(readAmount(text, 7.5)).toEqual({ minutes }),
  );

  test.each([
    ["", "Say how long"],
    ["2", "2 of what?"],
    ["1,5", "1,5 of what?"],
    ["two hours", "This is no amount of time"],
    ["h", "This is no amount of time"],
    ["3 weeks", "“weeks” is no unit"],
    ["2 h ago", "This is no amount of time"],
    ["-2 h", "This is no amount of time"],
    ["0 min", "less than a minute"],
    ["1:75", "This is no amount of time"],
    ["9".repeat(80), "too long"],
  ])("“%s” is none, and it is said why", (text, why) =>
    expect(readAmount(text, 8)).toEqual({ problem: expect.stringContaining(why) }),
  );

  test("is read back as it is written out, whatever it is", () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 59_999 }), (minutes) => {
        expect(readAmount(amountWords(minutes).replace(",", ""), 8)).toEqual({ minutes });
      }),
    ));

  test("says how long days are where it is written in days", () => {
    expect(["2 days", "1d", "1 h 2 days"].every(isInDays)).toBe(true);
    expect(["2 h", "1:30", "days"].some(isInDays)).toBe(false);
  });
});

const entry = (minutes: number, personId = "noor"): TimeEntry => ({
  entryId: "e",
  personId,
  on: "2026-11-20",
  minutes,
  note: "",
});

describe("time that is recorded", () => {
  test("is of a day that has come, and of no more than a slip of the hand", () => {
    expect(entryProblem(entry(1), "2026-11-20")).toBeNull();
    expect(entryProblem(entry(MOST_MINUTES), "2026-11-21")).toBeNull();
    expect(entryProblem(entry(MOST_MINUTES + 1), "2026-11-21")?.sentence).toContain("100 h");
    expect(entryProblem(entry(0), "2026-11-21")).not.toBeNull();
    expect(entryProblem(entry(60), "2026-11-19")?.sentence).toContain("still to come");
  });

  test("takes what is left down, and gives it back", () => {
    expect(leftAfter(8, null, entry(90))).toBe(6.5);
    expect(leftAfter(8, entry(90), entry(30))).toBe(9);
    expect(leftAfter(8, entry(90), null)).toBe(9.5);
    expect(leftAfter(1, null, entry(90))).toBe(0);
    expect(leftAfter(null, null, entry(90))).toBeNull();
    expect(leftAfter(1, null, entry(20))).toBe(0.67);
  });

  test("is changed by whoever recorded it alone", () => {
    const item = { remainingHours: 8 };
    const change = { kind: "record time", was: entry(60), becomes: entry(90) } as const;
    expect(isRefusal(decideTime(item, change, "ruth"))).toBe(true);
    expect(isRefusal(decideTime(item, { ...change, was: entry(60, "ruth") }, "noor"))).toBe(true);
    expect(decideTime(item, change, "noor")).toEqual([
      { kind: "time recorded", old: entry(60), new: entry(90) },
    ]);
  });

  test("changes what is left only where that was said and is another", () => {
    const change = { kind: "record time", was: null, becomes: entry(60) } as const;
    const kinds = (left?: number | null) =>
      (decideTime({ remainingHours: 8 }, { ...change, left }, "noor") as { kind: string }[]).map(
        ({ kind }) => kind,
      );
    expect(kinds()).toEqual(["time recorded"]);
    expect(kinds(8)).toEqual(["time recorded"]);
    expect(kinds(7)).toEqual(["time recorded", "changed"]);
    expect(kinds(null)).toEqual(["time recorded", "changed"]);
  });
});

describe("sums of time", () => {
  const item = (of: Partial<TimeOfItem>): TimeOfItem => ({
    firstEstimate: null,
    spentMinutes: 0,
    left: null,
    finished: false,
    ...of,
  });

  test("add what was said; nothing is left of what has finished, and silence is told", () => {
    const sums = timeSums([
      item({ firstEstimate: 10, spentMinutes: 90, left: 4 }),
      item({ firstEstimate: 6, spentMinutes: 600, left: 2, finished: true }),
      item({ spentMinutes: 30 }),
    ]);
    expect(sums).toEqual({ first: 16, spentMinutes: 720, left: 4, silent: 1 });
    // 12 hours spent and 4 to come, of 16 that were thought of.
    expect(againstFirst(sums)).toBe(100);
  });

  test("are nothing known where nothing was said, and not zero", () => {
    expect(timeSums([item({})])).toEqual({ first: null, spentMinutes: 0, left: null, silent: 1 });
    expect(timeSums([])).toEqual({ first: null, spentMinutes: 0, left: null, silent: 0 });
    expect(againstFirst(timeSums([item({ spentMinutes: 60 })]))).toBeNull();
    expect(againstFirst(timeSums([item({ firstEstimate: 0, spentMinutes: 60 })]))).toBeNull();
  });
});

test("a week has the days that somebody works, without holidays and days off", () => {
  const hours = {
    workDays: [0, 1, 2, 3],
    daysOff: [{ from: "2026-12-24", to: "2026-12-27" }],
    hoursADay: 7.5,
  };
  const days = weekDays("2026-12-21", hours, new Set(["2026-12-22", "2026-12-25"]));
  expect(days.map(({ room }) => room)).toEqual([450, 0, 450, 0, 0, 0, 0]);
  expect(days.map(({ free }) => free)).toEqual([null, "holiday", null, "away", null, null, null]);
});
