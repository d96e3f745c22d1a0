import { longestChain, movedOn, planConflicts, type PlannedItem } from "@/core/plan/dependencies";
import {
  ASSUMED_FOCUS,
  daysAtWork,
  focusOf,
  focusShare,
  hoursAgainstRoom,
  hoursPerPoint,
  loadInDays,
  pushedOn,
  roomInPoints,
} from "@/core/plan/room";

const FULL = { workDays: [0, 1, 2, 3, 4], daysOff: [] };
/** Two weeks, Monday to Sunday. */
const SPRINT = { from: "2026-11-30", to: "2026-12-13" };

describe("room", () => {
  test("is the days at work: weekdays that somebody works, without holidays and days off", () => {
    const none = new Set<string>();
    expect(daysAtWork(FULL, SPRINT, none)).toEqual({ days: 10, off: 0 });
    const three = { workDays: [0, 1, 2], daysOff: [{ from: "2026-12-01", to: "2026-12-06" }] };
    // Off on a Tuesday and a Wednesday that they would work; the rest of it they would not.
    expect(daysAtWork(three, SPRINT, none)).toEqual({ days: 4, off: 2 });
    // A holiday is nobody's day off.
    expect(daysAtWork(three, SPRINT, new Set(["2026-12-01", "2026-12-07"]))).toEqual({
      days: 3,
      off: 1,
    });
    expect(daysAtWork({ workDays: [], daysOff: [] }, SPRINT, none)).toEqual({ days: 0, off: 0 });
  });

  test("in points is the mean velocity by the days at work", () => {
    const past = [
      { velocity: 20, days: 50 },
      { velocity: 24, days: 60 },
      { velocity: 22, days: 40 },
    ];
    // 22 points in the mean of 50 days: with 40 days a fifth less.
    expect(roomInPoints(past, 40)).toBeCloseTo(17.6);
    expect(roomInPoints([], 40)).toBeNull();
    expect(roomInPoints([{ velocity: 9, days: 0 }], 40)).toBeNull();
  });

  test("in hours takes the share of them that went into past sprints: one's own, else the team's", () => {
    const past = (...of: [number, number][]) =>
      of.map(([recorded, available]) => ({ recorded, available }));
    // A half, a quarter, three quarters: the median, not the mean of 0.6.
    const own = past([40, 80], [20, 80], [90, 100]);
    const team = past([100, 400], [100, 400]);
    expect(focusOf(own, team)).toEqual({ share: 0.5, by: "person" });
    expect(focusOf(past([0, 80], [0, 0]), team)).toEqual({ share: 0.25, by: "team" });
    expect(focusOf([], [])).toEqual({ share: ASSUMED_FOCUS, by: "assumed" });
    // Who was away all the time says nothing of that sprint.
    expect(focusShare(past([30, 60], [0, 0]))).toBe(0.5);
    // 1,200 hours at work, six of ten for what was planned, 66 points.
    const sprints = [
      { velocity: 20, available: 400 },
      { velocity: 24, available: 480 },
      { velocity: 22, available: 320 },
    ];
    expect(hoursPerPoint(sprints, 0.6)).toBeCloseTo(720 / 66);
    expect(hoursPerPoint([], 0.6)).toBeNull();
  });

  test("is taken by the hours that are left, else by size; what has neither is said", () => {
    const items = [
      { hoursLeft: 12, points: 8 },
      { hoursLeft: null, points: 3 },
      { hoursLeft: null, points: null },
    ];
    expect(loadInDays(items, { hoursADay: 8, perPoint: 4 })).toEqual({
      days: 3,
      about: true,
      unsized: 1,
    });
    expect(loadInDays(items.slice(0, 1), { hoursADay: 6, perPoint: null })).toEqual({
      days: 2,
      about: false,
      unsized: 0,
    });
    expect(loadInDays(items.slice(1), { hoursADay: 8, perPoint: null }).unsized).toBe(2);
  });

  test("in hours is held against all hours that its people give to what is planned", () => {
    const items = [
      { hoursLeft: 12, points: 8 },
      { hoursLeft: null, points: 3 },
      { hoursLeft: null, points: null },
    ];
    const people = [
      { days: 10, hoursADay: 8, focus: { share: 0.5, by: "person" } as const },
      { days: 4, hoursADay: 6, focus: { share: 0.25, by: "team" } as const },
    ];
    // 12 that are left and three points of four hours; half of 80 and a quarter of 24.
    expect(hoursAgainstRoom(items, people, 4)).toEqual({ load: 24, room: 46, about: true });
    expect(hoursAgainstRoom(items, [], null)).toEqual({ load: 12, room: 0, about: false });
  });

  test("that is exceeded proposes the last by rank, what is begun stays", () => {
    const item = (id: string, points: number | null, begun = false) => ({ id, points, begun });
    const items = [item("a", 5), item("b", 3), item("c", null), item("d", 2, true), item("e", 1)];
    expect(pushedOn(items, 4).map(({ id }) => id)).toEqual(["e", "b"]);
    expect(pushedOn(items, 0)).toEqual([]);
    expect(pushedOn(items, 99).map(({ id }) => id)).toEqual(["e", "b", "a"]);
  });
});

describe("dependencies in a plan", () => {
  const item = (id: string, place: number | null, teamId: string | null = "t"): PlannedItem => ({
    id,
    key: id.toUpperCase(),
    teamId,
    place,
  });

  test("are broken by what comes before, and kept only just by two teams in one sprint", () => {
    const items = [
      item("a", 0),
      item("b", 1),
      item("c", 1, "other"),
      item("d", null),
      item("e", 2),
    ];
    const found = planConflicts(items, [
      { id: "b", forId: "c" },
      { id: "a", forId: "b" },
      { id: "e", forId: "b" },
      { id: "b", forId: "d" },
      { id: "d", forId: "e" },
      { id: "b", forId: "elsewhere" },
    ]);
    expect(found.map((one) => [one.item.id, one.waitsFor.id, one.kind])).toEqual([
      ["a", "b", "before"],
      ["b", "d", "before"],
      ["b", "c", "together"],
    ]);
  });

  test("are moved on with all that follows and would come too early", () => {
    const items = [item("a", 0), item("b", 0), item("c", 1), item("d", 3), item("e", null)];
    const waits = [
      { id: "b", forId: "a" },
      { id: "c", forId: "b" },
      { id: "d", forId: "c" },
      { id: "e", forId: "a" },
    ];
    const moved = movedOn(items, waits, { id: "a", place: 2 });
    expect(moved.map((one) => [one.item.id, one.place])).toEqual([
      ["a", 2],
      ["b", 2],
      ["c", 2],
    ]);
    expect(movedOn(items, waits, { id: "c", place: 1 }).map((one) => one.item.id)).toEqual(["c"]);
  });

  test("make chains, of which the longest is told, and no circle goes on for ever", () => {
    const items = ["a", "b", "c", "d"].map((id) => ({ id, size: 1 }));
    const waits = [
      { id: "b", forId: "a" },
      { id: "c", forId: "b" },
      { id: "d", forId: "a" },
    ];
    expect(longestChain(items, waits)).toEqual(["a", "b", "c"]);
    expect(longestChain(items, [])).toEqual([]);
    expect(longestChain(items, [...waits, { id: "a", forId: "c" }]).length).toBeLessThanOrEqual(4);
  });
});
