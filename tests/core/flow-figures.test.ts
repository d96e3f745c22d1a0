import { DAY } from "@/core/calendar/instant";
import { dayNumber, dayStart, parseIsoDate } from "@/core/calendar/zone";
import { expectationKept } from "@/core/flow/expectation";
import type { FlowFacts, Running } from "@/core/flow/facts";
import type { Finished } from "@/core/flow/measures";
import { maskIds, maskPulse, maskReport } from "@/core/flow/outside-view";
import { lastWeeks } from "@/core/flow/period";
import { pulse, runningWeek, type PulseFacts } from "@/core/flow/pulse";
import { quantile } from "@/core/flow/quantile";
import { flowReport } from "@/core/flow/report";
import { flowQuery, PERIODS } from "@/core/flow/request";
import { throughputByWeek } from "@/core/flow/throughput";
import {
  escapedByRelease,
  unplannedShare,
  velocity,
  type FinishedWork,
} from "@/core/flow/unplanned";
import { zigzag } from "@/core/flow/zigzag";
import type { Stay } from "@/core/item/snapshot";

const ZONE = "Europe/London";
const at = (date: string, hour = 12) => dayStart(parseIsoDate(date), ZONE) + (hour / 24) * DAY;

const finished = (itemId: string, days: number, change: Partial<Finished> = {}): Finished => ({
  itemId,
  key: `TIX-${itemId}`,
  title: `Item ${itemId}`,
  at: at("2026-11-20"),
  kind: "delivered",
  outcome: "delivered",
  days,
  elapsed: days - 0.5,
  sinceLast: days - 0.5,
  ...change,
});

const running = (itemId: string, since: string, change: Partial<Running> = {}): Running => ({
  itemId,
  key: `TIX-${itemId}`,
  title: `Item ${itemId}`,
  stateId: "Building",
  kind: "working",
  clock: [{ from: at(since), to: null }],
  blocked: false,
  ...change,
});

describe("unplanned work", () => {
  const work = (
    itemId: string,
    origin: FinishedWork["origin"],
    estimate: number | null,
    day: string,
  ) => ({
    itemId,
    origin,
    estimate,
    finishedAt: at(day),
  });
  const WORK = [
    work("a", "planned", 3, "2026-11-02"),
    work("b", "unplanned", 0, "2026-11-03"),
    work("c", "planned", null, "2026-11-04"),
    work("d", "unplanned", 5, "2026-11-16"),
  ];

  test("is counted in items, and named", () => {
    expect(unplannedShare(WORK)).toEqual({ unplanned: ["b", "d"], finished: 4, share: 0.5 });
    expect(unplannedShare([])).toEqual({ unplanned: [], finished: 0, share: null });
  });

  test("velocity adds what finished from the first instant on, and not at the last", () => {
    expect(velocity(WORK, at("2026-11-02"), at("2026-11-16"))).toBe(3);
    expect(velocity(WORK, at("2026-11-02") + 1, at("2026-11-16") + 1)).toBe(5);
    expect(velocity([], 0, 1)).toBe(0);
  });

  test("escaped bugs stand with the release they went out with, in their order", () => {
    const bug = (itemId: string, releaseId: string) => ({ itemId, releaseId });
    expect([...escapedByRelease([bug("a", "r1"), bug("b", "r2"), bug("c", "r1")])]).toEqual([
      ["r1", ["a", "c"]],
      ["r2", ["b"]],
    ]);
  });
});

test("the last weeks begin with a day and end now", () => {
  const now = at("2026-11-26", 15);
  const { from, to } = lastWeeks(2, ZONE, now);
  expect(from).toBe(dayStart(parseIsoDate("2026-11-13"), ZONE));
  // What happened at this very instant counts.
  expect(to).toBe(now + 1);
  expect(dayNumber(now, ZONE) - dayNumber(from, ZONE) + 1).toBe(14);
});

test("the running week begins on Monday and ends now", () => {
  const now = at("2026-11-26", 15);
  expect(runningWeek(ZONE, now)).toEqual({ from: at("2026-11-23", 0), to: now + 1 });
});

describe("the pulse", () => {
  const FACTS: PulseFacts = {
    recent: [finished("f1", 3), finished("f2", 9), finished("f3", 10)],
    times: [],
    running: [
      running("r1", "2026-11-20"),
      running("r2", "2026-11-02", { blocked: true }),
      running("r3", "2026-11-02"),
    ],
    arrived: ["r1"],
    departed: ["f1"],
  };
  const line = pulse(FACTS, { days: 9, share: 0.85 }, ZONE, at("2026-11-26"));

  test("names the oldest: the first of those that are as old", () => {
    expect(line.oldest).toEqual({ itemId: "r2", age: 25, elapsed: 24 });
  });

  test("an item that took exactly the expected days kept them; the late ones are named", () => {
    expect(line.kept).toEqual({
      within: 2,
      of: 3,
      share: 2 / 3,
      met: false,
      itemIds: ["f3"],
    });
  });

  test("carries the items behind each figure", () => {
    expect(line).toMatchObject({
      inProgress: ["r1", "r2", "r3"],
      blocked: ["r2"],
      arrivedThisWeek: ["r1"],
      departedThisWeek: ["f1"],
      recentlyFinished: ["f1", "f2", "f3"],
    });
  });

  test("of nothing in progress nothing is the oldest", () => {
    const empty = { ...FACTS, running: [] };
    expect(pulse(empty, { days: 9, share: 0.85 }, ZONE, at("2026-11-26")).oldest).toBeNull();
  });

  test("what somebody may not see is counted, and not named", () => {
    const masked = maskPulse(line, new Set(["r2", "f3", "f1"]));
    expect(masked).toEqual({
      ...line,
      inProgress: ["r1", "", "r3"],
      oldest: { itemId: "", age: 25, elapsed: 24 },
      kept: { ...line.kept, itemIds: [""] },
      blocked: [""],
      arrivedThisWeek: ["r1"],
      departedThisWeek: [""],
      recentlyFinished: ["", "f2", ""],
    });
    expect(maskPulse(line, new Set())).toBe(line);
    expect(maskPulse({ ...line, oldest: null }, new Set(["r1"])).oldest).toBeNull();
    expect(maskIds(["a", "b"], new Set(["b"]))).toEqual(["a", ""]);
  });
});

test("an expectation is met by exactly its share", () => {
  expect(expectationKept([1, 2, 3, 99], { days: 5, share: 0.75 })).toMatchObject({
    share: 0.75,
    met: true,
  });
  expect(expectationKept([1, 2, 98, 99], { days: 5, share: 0.75 }).met).toBe(false);
});

describe("throughput", () => {
  const week = (monday: string, itemIds: string[], whole: boolean) => ({
    week: parseIsoDate(monday),
    itemIds,
    whole,
  });

  test("weeks that the period holds from end to end are whole, the others are not", () => {
    const rows = [
      finished("a", 1, { at: at("2026-11-16", 0) }),
      finished("b", 1, { at: at("2026-11-01") }),
    ];
    const from = (a: string, b: string) => ({ from: at(a, 0), to: at(b, 0) });
    expect(throughputByWeek(rows, from("2026-11-09", "2026-11-23"), ZONE)).toEqual([
      week("2026-11-09", [], true),
      week("2026-11-16", ["a"], true),
    ]);
    expect(throughputByWeek(rows, from("2026-11-10", "2026-11-22"), ZONE)).toEqual([
      week("2026-11-09", [], false),
      week("2026-11-16", ["a"], false),
    ]);
  });
});

describe("the report", () => {
  const FACTS: FlowFacts = {
    ...({} as FlowFacts),
    period: { from: at("2026-11-01", 0), to: at("2026-11-26") },
    firstDay: parseIsoDate("2026-11-01"),
    days: 26,
    departures: (["delivered", "stopped", "again"] as const).map((kind, i) => ({
      itemId: `d${i}`,
      key: `TIX-${i}`,
      title: `Item ${i}`,
      at: at("2026-11-10"),
      kind,
      outcome: "delivered",
      clock: [{ from: at("2026-11-08"), to: at("2026-11-10") }],
      elapsedMs: 2 * DAY,
      sinceLastMs: DAY,
    })),
    running: [running("r1", "2026-11-20", { blocked: true }), running("r2", "2026-11-26")],
    times: [],
    steps: [],
    inProgressMs: 4 * DAY,
  };
  const report = flowReport(FACTS, { days: 9, share: 0.85 }, ZONE, at("2026-11-26"));
  const row = (i: number) => ({
    itemId: `d${i}`,
    key: `TIX-${i}`,
    title: `Item ${i}`,
    at: at("2026-11-10"),
    outcome: "delivered",
    days: 3,
    elapsed: 2,
  });

  test("tells deliveries, stops and further finishes apart", () => {
    expect(report.finished).toEqual([row(0)]);
    expect(report.stopped).toEqual([row(1)]);
    expect(report.again).toEqual([row(2)]);
    expect(report.percentiles).toEqual({ p50: 3, p85: 3, p95: 3 });
    expect(report.kept).toMatchObject({ within: 1, of: 1 });
  });

  test("ages what runs, today included, and says what is blocked", () => {
    const ageing = { stateId: "Building", kind: "working" };
    expect(report.ageing).toEqual([
      {
        itemId: "r1",
        key: "TIX-r1",
        title: "Item r1",
        ...ageing,
        blocked: true,
        age: 7,
        elapsed: 6,
      },
      {
        itemId: "r2",
        key: "TIX-r2",
        title: "Item r2",
        ...ageing,
        blocked: false,
        age: 1,
        elapsed: 0,
      },
    ]);
  });

  test("Little's law is over the length of the period", () => {
    const days = (FACTS.period.to - FACTS.period.from) / DAY;
    expect(JSON.stringify(report.little)).toContain(String(4 / days).slice(0, 8));
  });

  test("what somebody may not see keeps its place and loses its name", () => {
    const masked = maskReport(report, new Set(["d0", "d1", "d2", "r1"]));
    const nameless = { itemId: "", key: "", title: "" };
    expect(masked.finished).toEqual([{ ...row(0), ...nameless }]);
    expect(masked.stopped).toEqual([{ ...row(1), ...nameless }]);
    expect(masked.again).toEqual([{ ...row(2), ...nameless }]);
    expect(masked.ageing[0]).toEqual({ ...report.ageing[0], ...nameless });
    expect(masked.ageing[1]).toEqual(report.ageing[1]);
    expect(masked.throughput.flatMap((w) => w.itemIds)).toEqual([""]);
    expect(masked.throughput.map((w) => w.week)).toEqual(report.throughput.map((w) => w.week));
    expect(masked.little).toBe(report.little);
    expect(maskReport(report, new Set())).toBe(report);
  });
});

describe("an item's zigzag", () => {
  const stay = (kind: Stay["kind"], from: number, to: number | null): Stay => ({
    ...({} as Stay),
    stateId: kind,
    kind,
    from: from * DAY,
    to: to === null ? null : to * DAY,
  });
  const drawn = (
    stays: Stay[],
    blocks: [number, number | null][] = [],
    now = 10,
    sent: number[] = [],
  ) =>
    zigzag(
      {
        stays,
        blocks: blocks.map(([from, to]) => ({
          from: from * DAY,
          to: to === null ? null : to * DAY,
        })),
      },
      now * DAY,
      sent.map((s) => s * DAY),
    );
  const parts = (z: ReturnType<typeof zigzag>) =>
    z.segments.map((s) => `${s.level}${s.blocked ? " blocked" : ""} ${s.from / DAY}-${s.to / DAY}`);

  test("of what was never begun there is none, and nothing was sent back in it", () => {
    const none = {
      segments: [],
      returns: [],
      working: 0,
      waiting: 0,
      blocked: 0,
      efficiency: null,
    };
    expect(drawn([])).toEqual(none);
    expect(drawn([stay("unstarted", 0, null)], [], 10, [3])).toEqual(none);
    expect(drawn([stay("unstarted", 0, 2), stay("finished", 2, null)], [], 10, [3])).toEqual(none);
  });

  test("begins with the commitment and ends with the finish; what is finished in between is off", () => {
    const stays = [
      stay("unstarted", 0, 1),
      stay("working", 1, 3),
      stay("finished", 3, 4),
      stay("waiting", 4, 6),
      stay("finished", 6, null),
    ];
    const z = drawn(stays, [[2, 5]]);
    expect(parts(z)).toEqual([
      "high 1-2",
      "high blocked 2-3",
      "off 3-4",
      "low blocked 4-5",
      "low 5-6",
    ]);
    expect(z).toMatchObject({ working: 1, waiting: 1, blocked: 2, efficiency: 0.25 });
    expect(z.segments[0]).toMatchObject({ stateId: "working", kind: "working", days: 1 });
  });

  test("blocks that end as a stay begins, or begin as it ends, leave it whole", () => {
    const z = drawn(
      [stay("waiting", 1, 3), stay("working", 3, 5)],
      [
        [0, 1],
        [3, 3],
        [5, 9],
      ],
    );
    expect(parts(z)).toEqual(["low 1-3", "high 3-5"]);
  });

  test("runs to now, and never before a stay that a clock put later", () => {
    expect(parts(drawn([stay("working", 1, null)], [[4, null]], 6))).toEqual([
      "high 1-4",
      "high blocked 4-6",
    ]);
    expect(drawn([stay("working", 8, null)], [], 6).segments).toEqual([]);
  });

  test("was sent back as far as it is drawn, its ends included", () => {
    const z = drawn([stay("working", 1, 4), stay("waiting", 4, 6)], [], 10, [0, 1, 4, 6, 7]);
    expect(z.returns).toEqual([1 * DAY, 4 * DAY, 6 * DAY]);
  });
});

test("a share that is none is refused by its number", () => {
  expect(() => quantile([1], 1.5)).toThrow("not 1.5");
  expect(() => quantile([1], NaN)).toThrow("not NaN");
  // 7: between the last two of many, and the last itself.
  expect(quantile([1, 2, 4], 1, 7)).toBe(4);
  expect(quantile([5], 0.3, 7)).toBe(5);
});

describe("what is asked of the charts", () => {
  test("a period that is not offered is the usual one", () => {
    expect(flowQuery.parse({ period: "a year" }).period).toBe("12 weeks");
    expect(flowQuery.parse({}).period).toBe("12 weeks");
  });

  test("each period that is offered is taken, and is as long as its name", () => {
    for (const [period, weeks] of Object.entries(PERIODS)) {
      expect(flowQuery.parse({ period }).period).toBe(period);
      expect(period).toBe(`${weeks} weeks`);
    }
  });

  test("other filters are bounded", () => {
    expect(flowQuery.safeParse({ type: "x".repeat(65) }).success).toBe(false);
    expect(flowQuery.safeParse({ class: "none such" }).success).toBe(false);
    expect(flowQuery.parse({ type: "bug", class: "expedite" })).toMatchObject({ type: "bug" });
  });
});
