import type { Interval } from "@/core/calendar/instant";
import { passagesOf, stateTimes, type MeasuredStay } from "@/core/item/passage";
import { rankBetween, ranksBetween, ranksForOrder } from "@/core/item/rank";
import {
  countedClock,
  finishedAgain,
  finishesOf,
  isDelivered,
  milestonesAfter,
  milestonesNaming,
  namesOutcome,
  NO_MILESTONES,
  passage,
} from "@/core/item/start-finish";
import type { Outcome, StateKind } from "@/core/workflow/state";

/** What a step means, for each kind that an item can come from and go to. */
test.each<[StateKind | null, StateKind, ReturnType<typeof passage>]>([
  [null, "unstarted", null],
  [null, "waiting", "start"],
  [null, "working", "start"],
  [null, "finished", null],
  ["unstarted", "working", "start"],
  ["unstarted", "finished", null],
  ["waiting", "working", null],
  ["working", "waiting", null],
  ["working", "finished", "finish"],
  ["waiting", "finished", "finish"],
  ["working", "unstarted", "put back"],
  ["finished", "working", "start"],
  ["finished", "unstarted", null],
  ["finished", "finished", null],
])("from %s to %s: %s", (from, to, step) => expect(passage(from, to)).toBe(step));

test("an end without an outcome delivers, as one named so does", () => {
  expect(
    [null, "delivered", "duplicate", "obsolete"].map((o) => isDelivered(o as Outcome)),
  ).toEqual([true, true, false, false]);
});

describe("milestones", () => {
  const started = { firstStartedAt: 10, deliveredAt: null, finishedAt: null };

  test("the first start is kept, the last finish counts, the first delivery never changes", () => {
    const step = (
      from: StateKind | null,
      to: StateKind,
      at: number,
      outcome: Outcome | null = null,
    ) => ({
      from,
      to,
      at,
      outcome,
    });
    expect(milestonesAfter(NO_MILESTONES, step("unstarted", "waiting", 10))).toEqual(started);
    expect(milestonesAfter(started, step("finished", "working", 20))).toEqual(started);
    const declined = milestonesAfter(started, step("working", "finished", 30, "declined"));
    expect(declined).toEqual({ ...started, finishedAt: 30 });
    const delivered = milestonesAfter(started, step("working", "finished", 30, "delivered"));
    expect(delivered).toEqual({ ...started, deliveredAt: 30, finishedAt: 30 });
    expect(milestonesAfter(delivered, step("finished", "finished", 40))).toEqual(delivered);
    const reopened = milestonesAfter(delivered, step("finished", "unstarted", 50));
    expect(reopened).toEqual({ ...delivered, finishedAt: null });
    expect(milestonesAfter(reopened, step("working", "finished", 60))).toEqual({
      ...delivered,
      finishedAt: 60,
    });
    expect(milestonesAfter(NO_MILESTONES, step("unstarted", "finished", 5))).toEqual(NO_MILESTONES);
  });

  test("an outcome named in the step that finished it decides whether that delivered", () => {
    const finished = { firstStartedAt: 10, deliveredAt: 30, finishedAt: 30 };
    expect(milestonesNaming(finished, "duplicate", 30)).toEqual({ ...finished, deliveredAt: null });
    expect(milestonesNaming({ ...finished, deliveredAt: null }, "delivered", 30)).toEqual(finished);
    const again = { firstStartedAt: 10, deliveredAt: 20, finishedAt: 30 };
    expect(milestonesNaming(again, "duplicate", 30)).toEqual(again);
    expect(milestonesNaming(again, "delivered", 30)).toEqual(again);
    expect(milestonesNaming(finished, "duplicate", 40)).toEqual(finished);
  });

  test("it belongs to the state just entered, and taking one away is none", () => {
    expect(namesOutcome(30, 30, "delivered")).toBe(true);
    expect(namesOutcome(30, 31, "delivered")).toBe(false);
    expect(namesOutcome(30, 30, null)).toBe(false);
  });

  test("finished again is what finished later than it first was delivered", () => {
    expect(finishedAgain({ deliveredAt: 20, finishedAt: 30 })).toBe(true);
    expect(finishedAgain({ deliveredAt: 20, finishedAt: 20 })).toBe(false);
    expect(finishedAgain({ deliveredAt: null, finishedAt: 30 })).toBe(false);
    expect(finishedAgain({ deliveredAt: 20, finishedAt: null })).toBe(false);
  });

  test("days are counted up to the first delivery of what is finished, otherwise to the end", () => {
    const clock: Interval[] = [
      { from: 10, to: 20 },
      { from: 30, to: 40 },
    ];
    const of = (stateKind: StateKind, deliveredAt: number | null) =>
      countedClock({ clock, stateKind, deliveredAt });
    expect(of("finished", 20)).toEqual([{ from: 10, to: 20 }]);
    expect(of("finished", null)).toEqual(clock);
    expect(of("working", 20)).toEqual(clock);
  });
});

const stay = (
  stateId: string,
  kind: StateKind,
  from: number,
  to: number | null,
  more: Partial<MeasuredStay> = {},
): MeasuredStay => ({
  stateId,
  kind,
  from,
  to,
  outcome: null,
  enteredSeq: from,
  projectId: "timetable",
  blockedMs: 0,
  readyMs: 0,
  ...more,
});

/** Declined, begun again, delivered, reopened and finished once more. */
const RUN: MeasuredStay[] = [
  stay("Backlog", "unstarted", 0, 10),
  stay("Building", "working", 10, 25, { blockedMs: 4 }),
  stay("Closed", "finished", 25, 40, { outcome: "declined" }),
  stay("Building", "working", 40, 45),
  stay("Waiting", "waiting", 45, 52, { blockedMs: 2, readyMs: 3 }),
  stay("Live", "finished", 52, 60, { outcome: "delivered" }),
  stay("Archive", "finished", 60, 70),
  stay("Building", "working", 70, 78),
  stay("Live", "finished", 78, null, { outcome: "delivered" }),
];

test("the passages of a history, with what each took", () => {
  const projectId = "timetable";
  expect(passagesOf(RUN)).toEqual([
    { projectId, seq: 10, at: 10, kind: "start" },
    {
      projectId,
      seq: 25,
      at: 25,
      kind: "stopped",
      outcome: "declined",
      elapsedMs: 15,
      sinceLastMs: 15,
      times: null,
    },
    { projectId, seq: 40, at: 40, kind: "start" },
    {
      projectId,
      seq: 52,
      at: 52,
      kind: "delivered",
      outcome: "delivered",
      elapsedMs: 27,
      sinceLastMs: 12,
      times: {
        Building: { kind: "working", spentMs: 20, blockedMs: 4, readyMs: 0 },
        Waiting: { kind: "waiting", spentMs: 7, blockedMs: 2, readyMs: 3 },
      },
    },
    { projectId, seq: 70, at: 70, kind: "start" },
    {
      projectId,
      seq: 78,
      at: 78,
      kind: "again",
      outcome: "delivered",
      elapsedMs: 35,
      sinceLastMs: 8,
      times: null,
    },
  ]);
  expect(finishesOf(RUN)).toEqual([
    { at: 25, outcome: "declined", kind: "stopped" },
    { at: 52, outcome: "delivered", kind: "delivered" },
    { at: 78, outcome: "delivered", kind: "again" },
  ]);
});

test("a stay that goes on has no time yet", () =>
  expect(stateTimes([stay("Building", "working", 10, null, { blockedMs: 3 })])).toEqual({}));

describe("ranks", () => {
  test("between neighbours in the wrong order there is no room", () => {
    expect(() => rankBetween("a1", "a0")).toThrow("no room between a1 and a0");
    expect(() => rankBetween("a1", "a1")).toThrow(RangeError);
    expect(rankBetween(null, "a0") < "a0").toBe(true);
    expect(rankBetween("a0", null) > "a0").toBe(true);
    expect(ranksBetween("a0", "a1", 0)).toEqual([]);
  });

  test("what is put before the first goes between it and whatever stands above it in the installation", () => {
    const above: string[] = [];
    const moved = ranksForOrder(
      [
        { id: "x", rank: "a9" },
        { id: "y", rank: "a2" },
        { id: "z", rank: "a3" },
      ],
      { above: (rank) => (above.push(rank), "a1"), below: () => null },
    );
    expect(above).toEqual(["a2"]);
    expect([...moved.keys()]).toEqual(["x"]);
    expect(moved.get("x")! > "a1" && moved.get("x")! < "a2").toBe(true);
  });

  test("what stands in order already keeps its ranks, and nobody is asked for neighbours", () => {
    const never = () => {
      throw new Error("asked");
    };
    const wanted = ["a1", "a2", "a3"].map((rank) => ({ id: rank, rank }));
    expect(ranksForOrder(wanted, { above: never, below: never }).size).toBe(0);
  });
});
