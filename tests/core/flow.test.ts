import fc from "fast-check";
import {
  daysTouched,
  dayNumber,
  dayStart,
  isoDate,
  isoWeek,
  parseIsoDate,
  weekStart,
} from "@/core/calendar/zone";
import { mergeIntervals } from "@/core/calendar/instant";
import { cumulativeFlow } from "@/core/flow/cumulative-flow";
import { expectationKept } from "@/core/flow/expectation";
import { littlesLaw } from "@/core/flow/littles-law";
import { showsAge } from "@/core/board/age-track";
import { ageOf, ageWords } from "@/core/flow/age";
import { delivered, timed } from "@/core/flow/measures";
import { pulse, runningWeek } from "@/core/flow/pulse";
import { flowReport } from "@/core/flow/report";
import { throughputByWeek } from "@/core/flow/throughput";
import { flowTimes } from "@/core/flow/time-in-state";
import { zigzag } from "@/core/flow/zigzag";
import { finishesOf } from "@/core/item/start-finish";
import type { StateKind } from "@/core/workflow/state";
import {
  clockOf,
  departuresIn,
  factsOf,
  finishedIn,
  inProgressAt,
  inStateAt,
  startsIn,
  type FlowHistory,
} from "./setup/flow-by-history";
import { DAY, history } from "./setup/make";
import { runs } from "./setup/runs";

const STATES: [string, StateKind][] = [
  ["Backlog", "unstarted"],
  ["Ready", "waiting"],
  ["Building", "working"],
  ["Test", "waiting"],
  ["Live", "finished"],
];

/** A random walk through the states, with random lengths of stay. */
const anyHistory: fc.Arbitrary<FlowHistory> = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.double({ min: 0.01, max: 9, noNaN: true })), {
    minLength: 1,
    maxLength: 9,
  })
  .map((steps) => {
    let at = 0;
    const stays = steps.map(([state, length], i): [string, StateKind, number, number | null] => {
      const from = at;
      at += length;
      return [STATES[state][0], STATES[state][1], from, i === steps.length - 1 ? null : at];
    });
    return history(`h${steps.length}-${at}`, stays);
  });

/** How many days after what came before it something begins, and how many it lasts. */
const pause = fc.tuple(fc.nat(30), fc.nat(9));

describe("the clock", () => {
  test("starts at the first in-progress state, ends at finish or unstarted, and counts every interval", () => {
    const h = history("a", [
      ["Backlog", "unstarted", 0, 1],
      ["Ready", "waiting", 1, 3],
      ["Building", "working", 3, 4],
      ["Backlog", "unstarted", 4, 8],
      ["Building", "working", 8, 9],
      ["Live", "finished", 9, null],
    ]);
    expect(clockOf(h)).toEqual([
      { from: DAY, to: 4 * DAY },
      { from: 8 * DAY, to: 9 * DAY },
    ]);
    expect(finishedIn([h], { from: 0, to: 10 * DAY }, "UTC")[0]).toMatchObject({
      elapsed: 4,
      days: 6,
    });
  });
  test("what was closed without a start is no finished work, and moving among finished states finishes once", () => {
    expect(
      finishesOf(
        history("a", [
          ["Backlog", "unstarted", 0, 1],
          ["Closed", "finished", 1, null],
        ]).stays,
      ),
    ).toEqual([]);
    expect(
      finishesOf(
        history("b", [
          ["Building", "working", 0, 1],
          ["Live", "finished", 1, 3],
          ["Closed", "finished", 3, null],
        ]).stays,
      ),
    ).toMatchObject([{ at: DAY, kind: "delivered" }]);
  });
  test("an item that starts and finishes on one day took 1 day, by the calendar of the zone", () => {
    const h = history("a", [
      ["Building", "working", 0.1, 0.9],
      ["Live", "finished", 0.9, null],
    ]);
    const days = (zone: string) => finishedIn([h], { from: 0, to: DAY }, zone)[0].days;
    expect(days("UTC")).toBe(1);
    // Half past two in the night in one place is still the evening before in another.
    expect(days("America/New_York")).toBe(2);
  });
});

describe("an item that finishes more than once", () => {
  const h = history(
    "a",
    [
      ["Building", "working", 0, 2],
      ["Closed", "finished", 2, 5, "declined"],
      ["Building", "working", 5, 6],
      ["Live", "finished", 6, 7, "delivered"],
      ["Archive", "finished", 7, 9, "obsolete"],
      ["Building", "working", 9, 12.5],
      ["Live", "finished", 12.5, null, "delivered"],
    ],
    [
      [1, 1.5],
      [10, 11],
    ],
  );
  const all = { from: 0, to: 20 * DAY };

  test("each finish has its kind: ended otherwise, delivered, finished again", () => {
    expect(
      departuresIn([h], all, "UTC").map(({ at, kind, outcome, days, elapsed, sinceLast }) => [
        at / DAY,
        kind,
        outcome,
        days,
        elapsed,
        sinceLast,
      ]),
    ).toEqual([
      [2, "stopped", "declined", 3, 2, 2],
      [6, "delivered", "delivered", 5, 3, 1],
      [12.5, "again", "delivered", 9, 6.5, 3.5],
    ]);
  });
  test("its cycle time, efficiency and place in throughput are those of the first delivery, also while it is open again", () => {
    const reopened = {
      ...h,
      stays: h.stays.slice(0, 6).map((s, i) => (i === 5 ? { ...s, to: null } : s)),
    };
    for (const known of [h, reopened]) {
      const [finished] = finishedIn([known], all, "UTC");
      expect([finished.at / DAY, finished.days]).toEqual([6, 5]);
      expect(flowTimes(factsOf([known], all, "UTC").times, 1)).toMatchObject({
        working: 2.5,
        blocked: 0.5,
      });
    }
    expect(inProgressAt([reopened], 13 * DAY)).toHaveLength(1);
    // The time between its ends does not count into its age.
    expect(ageOf(clockOf(reopened), "UTC", 13 * DAY)).toMatchObject({ age: 10 });
  });
  test("all of it departs and arrives, and only its first delivery is in the figures of finished work", () => {
    const facts = factsOf([h], all, "UTC", 20 * DAY);
    const report = flowReport(facts, { days: 4, share: 0.5 }, "UTC", 20 * DAY);
    expect(
      [report.finished, report.stopped, report.again].map((rows) => rows.map((r) => r.days)),
    ).toEqual([[5], [3], [9]]);
    expect(report.kept).toMatchObject({ within: 0, of: 1 });
    expect(report.throughput.flatMap((w) => w.itemIds)).toEqual(["a"]);
    expect(report.little.throughput).toBe(3 / 20);
    expect(report.little.gap).toBeCloseTo(0, 10);
    expect(startsIn([h], all)).toHaveLength(3);
  });
  test("a process that asks for no outcome delivers", () => {
    expect(
      finishesOf(
        history("b", [
          ["Building", "working", 0, 1],
          ["Live", "finished", 1, null],
        ]).stays,
      ),
    ).toMatchObject([{ kind: "delivered", outcome: null }]);
  });
});

describe("calendar days", () => {
  test.each([
    ["Europe/London", "2026-03-29", 23],
    ["Europe/London", "2026-10-25", 25],
    ["Australia/Lord_Howe", "2026-10-04", 23.5],
    ["Asia/Kathmandu", "2026-06-01", 24],
  ])("in %s the day %s has %f hours", (zone, date, hours) => {
    const day = parseIsoDate(date);
    expect((dayStart(day + 1, zone) - dayStart(day, zone)) / 3_600_000).toBe(hours);
  });
  test("a day begins where its number begins, everywhere and always", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10_000, max: 30_000 }),
        fc.constantFrom("UTC", "Europe/London", "America/Sao_Paulo", "Pacific/Apia", "Asia/Tehran"),
        (day, zone) => {
          const start = dayStart(day, zone);
          // A day that a zone skipped altogether begins where the next one does.
          expect(dayNumber(start, zone)).toBeGreaterThanOrEqual(day);
          expect(dayNumber(start - 1, zone)).toBeLessThan(day);
          expect(parseIsoDate(isoDate(day))).toBe(day);
        },
      ),
    );
  });
  test.each([
    ["2026-12-31", 2026, 53],
    ["2027-01-03", 2026, 53],
    ["2027-01-04", 2027, 1],
    ["2024-12-30", 2025, 1],
    ["2021-01-03", 2020, 53],
  ])("%s is in ISO week %i-W%i", (date, year, week) => {
    expect(isoWeek(parseIsoDate(date))).toEqual({ year, week });
    expect(new Date(weekStart(parseIsoDate(date)) * DAY).getUTCDay()).toBe(1);
  });
  test("days touched by several intervals are counted once each", () => {
    const at = (from: number, to: number | null) => ({
      from: from * DAY,
      to: to === null ? null : to * DAY,
    });
    expect(daysTouched([at(0.2, 0.4), at(0.6, 1.5), at(1.7, 1.8)], "UTC", 0)).toBe(2);
    expect(daysTouched([at(5.5, null), at(0, 0.1)], "UTC", 7.2 * DAY)).toBe(4);
    expect(daysTouched([], "UTC", 0)).toBe(0);
  });
  test.each(["2026-02-30x", "yesterday", "2026-1-1"])("%s is no date", (text) =>
    expect(() => parseIsoDate(text)).toThrow(RangeError),
  );
});

describe("flow diagram and averages", () => {
  const period = { from: 0, to: 60 * DAY };

  test("bands agree with asking who was in a state at the end of a day", () => {
    fc.assert(
      fc.property(fc.array(anyHistory, { maxLength: 8 }), (histories) => {
        const { days, counts } = cumulativeFlow(factsOf(histories, period, "UTC"));
        expect(days).toHaveLength(60);
        for (const [state, series] of Object.entries(counts))
          for (const i of [0, 7, 31, 59])
            expect(series[i]).toBe(inStateAt(histories, state, (days[i] + 1) * DAY).length);
      }),
      { numRuns: runs(60) },
    );
  });

  test("the area in progress is the sum of the measured times, and WIP is what the diagram shows", () => {
    fc.assert(
      fc.property(fc.array(anyHistory, { maxLength: 8 }), (histories) => {
        const facts = factsOf(histories, period, "UTC");
        const { counts } = cumulativeFlow(facts);
        const wip = ["Ready", "Building", "Test"].reduce(
          (sum, s) => sum + (counts[s]?.[20] ?? 0),
          0,
        );
        expect(wip).toBe(
          histories.filter((h) =>
            ["Ready", "Building", "Test"].some((s) => inStateAt([h], s, 21 * DAY).length > 0),
          ).length,
        );
        // Counted once an hour, the diagram's area is what the clocks add up to.
        const hours = Array.from({ length: 60 * 24 }, (_, h) => (h + 0.5) * (DAY / 24));
        const sampled = hours.reduce((sum, at) => sum + inProgressAt(histories, at).length, 0);
        expect(Math.abs(facts.inProgressMs / DAY - sampled / 24)).toBeLessThanOrEqual(
          (histories.length * 20) / 24,
        );
      }),
      { numRuns: runs(60) },
    );
  });

  test("Little's law is exact over a window that starts and ends empty, whatever happened in between", () => {
    fc.assert(
      fc.property(fc.array(anyHistory, { minLength: 1, maxLength: 8 }), (histories) => {
        const end = history("end", [
          ["Building", "working", 90, 95],
          ["Live", "finished", 95, null],
        ]).stays;
        const closed = histories.map((h) => ({
          ...h,
          stays: [...h.stays.map((s) => ({ ...s, to: s.to ?? 90 * DAY })), ...end],
        }));
        const span = { from: 0, to: 100 * DAY };
        const { inProgressMs } = factsOf(closed, span, "UTC");
        const law = littlesLaw(span, inProgressMs, departuresIn(closed, span, "UTC"));
        expect(law.gap).toBeCloseTo(0, 8);
        const departures = closed.flatMap(({ stays }) =>
          stays.filter(
            (s, i) => s.kind === "finished" && ["waiting", "working"].includes(stays[i - 1]?.kind),
          ),
        );
        expect(law.throughput).toBeCloseTo(departures.length / 100, 10);
      }),
      { numRuns: runs(100) },
    );
  });

  test("throughput by week holds every finish once and knows which weeks are whole", () => {
    const histories = [4, 5, 11, 25].map((day) =>
      history(`f${day}`, [
        ["Building", "working", 1, day],
        ["Live", "finished", day, null],
      ]),
    );
    const span = { from: 2 * DAY, to: 26 * DAY };
    const weeks = throughputByWeek(finishedIn(histories, span, "UTC"), span, "UTC");
    expect(weeks.map((w) => [w.week, w.itemIds.length, w.whole])).toEqual([
      [-3, 0, false],
      [4, 2, true],
      [11, 1, true],
      [18, 0, true],
      [25, 1, false],
    ]);
  });
});

describe("time and efficiency", () => {
  const h = history(
    "a",
    [
      ["Ready", "waiting", 0, 2],
      ["Building", "working", 2, 6],
      ["Test", "waiting", 6, 7],
      ["Building", "working", 7, 8],
      ["Live", "finished", 8, null],
    ],
    [
      [3, 5],
      [4, 5.5],
      [6.5, 7.25],
    ],
  );

  const timesOf = (any: FlowHistory, at: number) =>
    flowTimes(factsOf([any], { from: 0, to: at }, "UTC").times, 1);

  test("blocked time counts as waiting, in whatever state, and overlapping blockers once", () => {
    const times = timesOf(h, 10 * DAY);
    expect(times).toMatchObject({ working: 2.25, waiting: 2.5, blocked: 3.25 });
    expect(times.efficiency).toBeCloseTo(2.25 / 8, 12);
    expect(times.states.find((s) => s.stateId === "Building")).toMatchObject({
      average: 5,
      blocked: 2.75,
      items: 1,
    });
    expect(
      mergeIntervals(
        [
          { from: 0, to: null },
          { from: 1, to: 2 },
        ],
        9,
      ),
    ).toEqual([{ from: 0, to: 9 }]);
  });

  test("the zigzag is the same time, drawn: high, low, broken, with its returns", () => {
    const line = zigzag(h, 10 * DAY, [7 * DAY, 400 * DAY]);
    expect(line.segments.map((s) => [s.level, s.blocked, s.days])).toEqual([
      ["low", false, 2],
      ["high", false, 1],
      ["high", true, 2.5],
      ["high", false, 0.5],
      ["low", false, 0.5],
      ["low", true, 0.5],
      ["high", true, 0.25],
      ["high", false, 0.75],
    ]);
    expect(line.returns).toEqual([7 * DAY]);
    expect(line.efficiency).toBeCloseTo(timesOf(h, 10 * DAY).efficiency!, 12);
  });

  test("zigzag and flow times agree on any history", () => {
    fc.assert(
      fc.property(anyHistory, pause, pause, (any, [from, length], [later, longer]) => {
        if (clockOf(any).length === 0) return;
        // Only the last finish delivers, so that what is measured is the whole line.
        const end = clockOf(any).at(-1)!.to ?? 90 * DAY;
        const stays = any.stays
          .filter((s) => s.from < end)
          .map((s) => ({
            ...s,
            to: s.to ?? end,
            outcome: s.kind === "finished" ? ("declined" as const) : null,
          }));
        const last = { stateId: "Live", kind: "finished" as const, outcome: null };
        const blocked = {
          ...any,
          stays: [...stays, { ...last, from: end, to: null }],
          blocks: [{ from: from * DAY, to: (from + length) * DAY }],
          // Never at the same time as the blocker.
          readies: [
            { from: (from + length + later) * DAY, to: (from + length + later + longer) * DAY },
          ],
        };
        const [line, times] = [zigzag(blocked, 99 * DAY), timesOf(blocked, 99 * DAY)];
        expect(line.working).toBeCloseTo(times.working, 6);
        expect(line.blocked).toBeCloseTo(times.blocked, 6);
        expect(line.waiting).toBeCloseTo(times.waiting, 6);
      }),
    );
  });

  test("what is ready for its next step is low, and waits, whatever state it is in", () => {
    const h = {
      ...history("a", [
        ["Building", "working", 0, 10],
        ["Live", "finished", 10, null],
      ]),
      blocks: [{ from: 2 * DAY, to: 4 * DAY }],
      readies: [{ from: 7 * DAY, to: 10 * DAY }],
    };
    expect(zigzag(h, 20 * DAY)).toMatchObject({
      working: 5,
      waiting: 3,
      blocked: 2,
      efficiency: 0.5,
    });
    const drawn = zigzag(h, 20 * DAY).segments.map((s) => [s.level, s.blocked, s.ready, s.days]);
    expect(drawn).toEqual([
      ["high", false, false, 2],
      ["high", true, false, 2],
      ["high", false, false, 3],
      ["low", false, true, 3],
    ]);
    expect(timesOf(h, 20 * DAY)).toMatchObject({
      working: 5,
      waiting: 3,
      blocked: 2,
      efficiency: 0.5,
      states: [{ stateId: "Building", average: 10, blocked: 2, ready: 3 }],
    });
  });

  test("nothing in, nothing out: no division by zero", () => {
    expect(flowTimes([], 0)).toMatchObject({ efficiency: null, working: 0 });
    expect(zigzag(history("a", [["Backlog", "unstarted", 0, null]]), DAY)).toMatchObject({
      segments: [],
      efficiency: null,
    });
    expect(expectationKept([], { days: 9, share: 0.85 })).toEqual({
      within: 0,
      of: 0,
      share: null,
      met: null,
    });
    expect(littlesLaw({ from: 0, to: DAY }, 0, [])).toMatchObject({
      averageTime: null,
      gap: null,
    });
  });
});

test("the pulse tells the same truth as the measures it is made of", () => {
  const now = 20.5 * DAY;
  const histories = [
    history("old", [["Building", "working", 1, null]], [[19, null]]),
    history("new", [["Ready", "waiting", 18.2, null]]),
    history("quick", [
      ["Building", "working", 17, 18.5],
      ["Live", "finished", 18.5, null],
    ]),
    history("slow", [
      ["Building", "working", 1, 12],
      ["Live", "finished", 12, null],
    ]),
  ];
  const { departures, times, running } = factsOf(histories, { from: 0, to: now }, "UTC", now);
  const week = runningWeek("UTC", now);
  const p = pulse(
    {
      recent: delivered(timed(departures, "UTC")),
      times,
      running,
      arrived: startsIn(histories, week).map((s) => s.itemId),
      departed: departuresIn(histories, week, "UTC").map((d) => d.itemId),
    },
    { days: 9, share: 0.85 },
    "UTC",
    now,
  );
  expect(p).toMatchObject({
    inProgress: ["old", "new"],
    oldest: { itemId: "old", age: 20 },
    kept: { within: 1, of: 2, share: 0.5, met: false, itemIds: ["slow"] },
    blocked: ["old"],
    arrivedThisWeek: ["new"],
    departedThisWeek: ["quick"],
  });
});

describe("an age in words", () => {
  const MINUTES = DAY / 24 / 60;
  const evening = 5 * DAY - 20 * MINUTES;
  const after = (minutes: number, style?: "short") =>
    ageWords(ageOf([{ from: evening, to: null }], "UTC", evening + minutes * MINUTES), style);
  test("is minutes and hours until a whole day has run, though the start was the day before", () => {
    expect(ageOf([{ from: evening, to: null }], "UTC", evening + 30 * MINUTES).age).toBe(2);
    expect(after(0)).toBe("0 minutes");
    expect(after(59)).toBe("59 minutes");
    expect(after(60)).toBe("1 hour");
    expect(after(30, "short")).toBe("30 min");
    expect(after(23 * 60 + 59, "short")).toBe("23 h");
  });
  test("is the days touched after that, the first and today included", () => {
    expect(after(24 * 60)).toBe("2 days");
    expect(after(24 * 60 + 20)).toBe("3 days");
    expect(after(24 * 60 + 20, "short")).toBe("3 d");
  });
  test("stands on a small card once two days of it are more than one night", () => {
    const shown = (minutes: number) =>
      showsAge(ageOf([{ from: evening, to: null }], "UTC", evening + minutes * MINUTES));
    expect([shown(30), shown(24 * 60 - 1), shown(24 * 60)]).toEqual([false, false, true]);
  });
});
