import type { FactName } from "@/core/condition/facts";
import {
  heldWords,
  limitOfColumn,
  limitOfPerson,
  limitsOfBoard,
  limitsOfCell,
  limitsOfLane,
  limitsOfStates,
  limitTitle,
  narrowLimitsOf,
  passing,
  withItems,
  type CountedLimit,
} from "@/core/board/board-limits";
import { besideBlockers, NOTHING_AROUND_IT } from "@/core/board/around";
import { NO_LIMIT, slots } from "@/core/board/limit";
import { PLAIN_COUNTING } from "@/core/board/limit-counting";
import {
  mattersForLimits,
  usualLevel,
  weightIn,
  type CountedItem,
  type CountingBy,
} from "@/core/board/limited";
import { loadOf } from "@/core/board/load";
import { longStay } from "@/core/board/state-stay";
import { DAY } from "@/core/calendar/instant";
import { changesByItself, type Condition } from "@/core/condition/condition";
import { brokenLimit } from "@/core/flow/broken-limit";
import { breaksByWeek, breakWords, type PastBreak } from "@/core/flow/limit-breaks";
import { blockerWords, WAITS } from "@/core/item/blocker";

const limit = (change: Partial<CountedLimit> = {}): CountedLimit => ({
  ...NO_LIMIT,
  ...PLAIN_COUNTING,
  id: "l",
  name: "Build",
  ownerKind: "state",
  ownerId: "Building",
  boardId: "b",
  field: null,
  value: null,
  stateIds: ["Building"],
  level: 1,
  expeditePasses: false,
  count: 0,
  unsized: 0,
  ...change,
});
const item = (change: Partial<CountedItem> = {}): CountedItem => ({
  stateId: "Building",
  stateKind: "working",
  estimate: 3,
  reviewerId: "ivo",
  assigneeId: "noor",
  classOfService: "standard",
  typeId: "story",
  teamId: "quayside",
  priority: "normal",
  origin: "planned",
  ...change,
});
const by: CountingBy = {
  levelOf: (typeId) => ({ story: 1, bug: 1, task: 0 })[typeId],
  byReviewer: new Set(["In review"]),
  defaultSize: 2,
};

const laneOf = (fact: FactName, key: string) => ({ value: { fact, key }, expedite: false });
const EXPEDITE_LANE = { ...laneOf("classOfService", "expedite"), expedite: true };
const REST = { value: null, expedite: false };

describe("what an item counts for", () => {
  test.each<[string, Partial<CountedLimit>, Partial<CountedItem>, number]>([
    ["one where it is", {}, {}, 1],
    ["nothing elsewhere", {}, { stateId: "Ready" }, 0],
    ["nothing of another level", {}, { typeId: "task" }, 0],
    ["one of that level where the limit is of it", { level: 0 }, { typeId: "task" }, 1],
    ["nothing of a type that nobody knows", {}, { typeId: "gone" }, 0],
    ["its size", { unit: "size" }, {}, 3],
    ["the default where it has none", { unit: "size" }, { estimate: null }, 2],
    ["nothing where it is expedite and goes past", { expeditePasses: true }, EXPEDITE(), 0],
    ["one where there is no allowance", {}, EXPEDITE(), 1],
    ["one of the team that it is for", { field: "teamId", value: "quayside" }, {}, 1],
    ["nothing of another team", { field: "teamId", value: "platform" }, {}, 0],
    ["nothing of no team", { field: "teamId", value: "platform" }, { teamId: null }, 0],
    ["one of all in progress", { ownerKind: "board" }, {}, 1],
    [
      "nothing of what nobody has begun",
      { ownerKind: "board", stateIds: ["Backlog"] },
      { stateId: "Backlog", stateKind: "unstarted" },
      0,
    ],
    ["one in the hands of who has it", { ownerKind: "person", ownerId: "noor" }, {}, 1],
    [
      "one in the hands of the reviewer where they work",
      { ownerKind: "person", ownerId: "ivo" },
      { stateId: "In review" },
      1,
    ],
    [
      "and then none in the assignee's",
      { ownerKind: "person", ownerId: "noor" },
      { stateId: "In review" },
      0,
    ],
    [
      "nothing of what waits where only work counts",
      { ownerKind: "person", ownerId: "noor", workedOnly: true },
      { stateId: "Waiting", stateKind: "waiting" },
      0,
    ],
    [
      "nothing of what is finished",
      { ownerKind: "person", ownerId: "noor" },
      { stateId: "Live", stateKind: "finished" },
      0,
    ],
  ])("%s", (_what, of, change, weight) => {
    expect(weightIn(limit(of), item(change), by)).toBe(weight);
  });

  test("is asked anew only where something of it changed", () => {
    expect(mattersForLimits(item(), item())).toBe(false);
    expect(mattersForLimits(null, item())).toBe(true);
    const changes: Partial<CountedItem>[] = [
      { stateId: "Ready" },
      { estimate: 5 },
      { reviewerId: null },
      { assigneeId: null },
      { typeId: "bug" },
      { priority: "high" },
      EXPEDITE(),
    ];
    for (const change of changes) expect(mattersForLimits(item(), item(change))).toBe(true);
  });

  test("a limit is usually of level 1, else of the lowest that is there", () => {
    expect([usualLevel([]), usualLevel([0, 1, 2]), usualLevel([2, 3]), usualLevel([0])]).toEqual([
      1, 1, 2, 0,
    ]);
  });

  test("what is here comes on top of what counts beside it", () => {
    const held = withItems(
      limit({ unit: "size", count: 10, unsized: 1 }),
      [item(), item({ estimate: null }), item({ stateId: "Ready" })],
      by,
    );
    expect([held.count, held.unsized]).toEqual([15, 2]);
  });
});

function EXPEDITE(): Partial<CountedItem> {
  return { classOfService: "expedite" };
}

describe("where limits stand on a board", () => {
  const limits = [
    limit({ id: "state" }),
    limit({ id: "wide", ownerKind: "column", ownerId: "c2" }),
    limit({ id: "cell", ownerKind: "column", ownerId: "c1", field: "typeId", value: "bug" }),
    limit({
      id: "allowance",
      ownerKind: "board",
      ownerId: "b",
      field: "classOfService",
      value: "expedite",
    }),
    limit({ id: "all", ownerKind: "board", ownerId: "b" }),
    limit({ id: "noors", ownerKind: "board", ownerId: "b", field: "assigneeId", value: "noor" }),
    limit({ id: "noor", ownerKind: "person", ownerId: "noor" }),
  ];
  const one = { id: "c1", stateIds: ["Building"] };
  const several = { id: "c2", stateIds: ["Building", "In review"] };
  const ids = (some: readonly CountedLimit[]) => some.map((l) => l.id);

  test("a column of one state shows that one's, another its own with those of its states below", () => {
    expect(limitOfColumn(limits, one)?.id).toBe("state");
    expect(limitOfColumn(limits, several)?.id).toBe("wide");
    expect(limitOfColumn(limits, { id: "c9", stateIds: ["Ready"] })).toBeNull();
    expect(ids(limitsOfStates(limits, one))).toEqual([]);
    expect(ids(limitsOfStates(limits, several))).toEqual(["state"]);
    expect(ids(narrowLimitsOf(limits, one))).toEqual(["cell"]);
  });

  test("over the whole, the allowance last; over lanes and people", () => {
    expect(ids(limitsOfBoard(limits))).toEqual(["all", "noors", "allowance"]);
    expect(limitOfPerson(limits, "noor")?.id).toBe("noor");
    expect(ids(limitsOfLane(limits, EXPEDITE_LANE))).toEqual(["allowance"]);
    expect(ids(limitsOfLane(limits, laneOf("assigneeId", "noor")))).toEqual(["noor", "noors"]);
    expect(ids(limitsOfLane(limits, laneOf("assigneeId", "ivo")))).toEqual([]);
    expect(ids(limitsOfLane(limits, laneOf("reviewerId", "noor")))).toEqual([]);
    expect(ids(limitsOfLane(limits, REST))).toEqual([]);
    expect(ids(limitsOfLane(limits, laneOf("classOfService", "standard")))).toEqual([]);
  });

  test("in a cell, what its column takes of the kind that its lane is made of", () => {
    const narrow = [
      ...limits,
      limit({ id: "noors here", ownerId: "c1", field: "assigneeId", value: "noor" }),
      limit({ id: "bugs here", ownerId: "c1", field: "typeId", value: "bug" }),
      limit({ id: "hurried here", ownerId: "c1", field: "classOfService", value: "expedite" }),
    ].map((l) => (l.ownerId === "c1" ? { ...l, ownerKind: "column" as const } : l));
    const inCell = (lane: Parameters<typeof limitsOfCell>[2], column = "c1") =>
      ids(limitsOfCell(narrow, { id: column }, lane));
    expect(inCell(laneOf("assigneeId", "noor"))).toEqual(["noors here"]);
    expect(inCell(laneOf("classOfService", "noor"))).toEqual([]);
    expect(inCell(laneOf("assigneeId", "noor"), "c2")).toEqual([]);
    expect(inCell(laneOf("typeId", "bug"))).toEqual(["cell", "bugs here"]);
    expect(inCell(EXPEDITE_LANE)).toEqual(["hurried here"]);
    expect(inCell(REST)).toEqual([]);
  });

  test("what goes past a limit is counted apart; without an allowance nothing does", () => {
    const items = [item(EXPEDITE()), item(), item({ ...EXPEDITE(), stateId: "Ready" })];
    expect(passing(limit({ expeditePasses: true }), items, by)).toBe(1);
    expect(passing(limit(), items, by)).toBe(0);
    expect(passing(null, items, by)).toBe(0);
  });

  test("what is ready is low in its place, as far as there are filled ones", () => {
    expect(slots(3, { ...NO_LIMIT, max: 5 }, 2)).toMatchObject({ filled: 3, low: 2, empty: 2 });
    expect(slots(6, { ...NO_LIMIT, max: 5 }, 9)).toMatchObject({ filled: 5, low: 5, beyond: 1 });
  });
});

test("how limits stand, in words", () => {
  expect(heldWords(limit({ max: 5, count: 4 })).words).toBe("4 of 5");
  expect(heldWords(limit({ max: 20, count: 13.5, unit: "size" })).words).toBe("size 13.5 of 20");
  expect(heldWords(limit({ max: 5, count: 7 }))).toMatchObject({
    words: "2 over",
    state: { kind: "over" },
  });
  expect(
    limitTitle(
      limit({
        max: 20,
        maxFirm: true,
        unit: "size",
        unsized: 2,
        expeditePasses: true,
        fixedDatePasses: true,
        workedOnly: true,
      }),
      3,
    ),
  ).toBe(
    "Build: at most 20 in size, firm; only what is worked on; fixed dates may pass; 2 items without a size, counted as 3 each; expedite items go past it, through their allowance",
  );
  expect(brokenLimit(limit({ max: 5, count: 5 }))).toBeNull();
  expect(brokenLimit(limit({ min: 3, count: 1 }))).toMatchObject({ words: "pull 2 more" });
  expect(loadOf(0, null).words).toBe("nothing in hand");
  expect(loadOf(3, null)).toEqual({ words: "3 in hand", over: false, room: null });
  expect(loadOf(3, limit({ max: 4, count: 3 }))).toEqual({
    words: "3 of 4 in hand",
    over: false,
    room: 1,
  });
  expect(loadOf(7, limit({ max: 4, count: 7 }))).toEqual({
    words: "7 in hand, 3 over",
    over: true,
    room: -3,
  });
});

test("a stay that is longer than its state expects, or bears", () => {
  const stay = (days: number, expectedDays: number | null, tooOldDays: number | null) =>
    longStay({ expectedDays, tooOldDays }, 0, days * DAY);
  expect(stay(2, 2, 5)).toBeNull();
  expect(stay(3.4, 2, 5)).toEqual({ words: "3 d here, expected 2", tooOld: false });
  expect(stay(6, 2, 5)).toEqual({ words: "6 d here, too old after 5", tooOld: true });
  expect(stay(6, null, 5)?.tooOld).toBe(true);
  expect(stay(900, null, null)).toBeNull();
});

test("a blocker names what it waits for, as far as that may be seen", () => {
  const key = () => "TIX-9";
  expect(blockerWords({ cause: "storm" }, key)).toBe("storm");
  expect(blockerWords({ cause: WAITS, dependencyId: "x" }, key)).toBe("waits for TIX-9");
  expect(blockerWords({ cause: "No mast", dependencyId: "x" }, key)).toBe(
    "No mast, waits for TIX-9",
  );
  expect(blockerWords({ cause: WAITS, dependencyId: null }, key)).toBe(
    "waits for an item outside your view",
  );
  const waits = (id: string) => ({ id, key: id, stateId: "build", teamId: null, sprintId: null });
  const around = {
    ...NOTHING_AROUND_IT,
    waitsFor: [waits("x"), waits("y")],
    waitsForUnseen: 1,
  };
  const blocker = { id: "b", cause: WAITS, waitingFor: null, since: 0 };
  expect(
    besideBlockers(around, [
      { ...blocker, dependencyId: "x" },
      { ...blocker, dependencyId: null },
      blocker,
    ]),
  ).toMatchObject({ waitsFor: [{ id: "y" }], waitsForUnseen: 0 });
});

test("what went beyond limits, by weeks, the latest first, and which", () => {
  const at = (day: string) => Date.parse(`${day}T12:00Z`);
  const past = (day: string, columnName: string, firm?: boolean): PastBreak => ({
    at: at(day),
    limit: { columnId: "c", columnName, side: "maximum", limit: 3, wouldHold: 4, firm },
    reason: null,
    by: null,
    item: null,
  });
  const weeks = breaksByWeek(
    [
      past("2026-11-16", "Build", false),
      past("2026-11-22", "Review", false),
      past("2026-11-23", "Build", false),
      // Before it was kept which, all were firm.
      past("2026-11-18", "Build"),
    ],
    "UTC",
  );
  expect(weeks.map(({ firm, advice, byLimit }) => ({ firm, advice, byLimit }))).toEqual([
    { firm: 0, advice: 1, byLimit: [{ name: "Build", times: 1 }] },
    {
      firm: 1,
      advice: 2,
      byLimit: [
        { name: "Build", times: 2 },
        { name: "Review", times: 1 },
      ],
    },
  ]);
  expect(weeks[1].breaks.map((b) => b.at)).toEqual([
    at("2026-11-22"),
    at("2026-11-18"),
    at("2026-11-16"),
  ]);
  const { limit: broken } = past("2026-11-18", "Build");
  expect(breakWords(broken)).toBe("4 with at most 3");
  expect(breakWords({ ...broken, side: "minimum", unit: "size" })).toBe("size 4 with at least 3");
});

test("conditions by which items come and go without anybody doing something to them", () => {
  const compare = (fact: string, value: unknown = 3): Condition =>
    ({ kind: "compare", fact, op: "is", value }) as Condition;
  for (const fact of ["age", "daysInState", "everIn", "children", "waitsFor", "testResult"])
    expect(changesByItself(compare(fact))).toBe(true);
  expect(changesByItself(compare("dueOn", { day: 0 }))).toBe(true);
  expect(changesByItself(compare("sprintId", { sprint: "current" }))).toBe(true);
  expect(changesByItself(compare("estimate", { fact: "returns" }))).toBe(false);
  for (const fact of ["priority", "teamId", "estimate", "blocked", "own.number.f"])
    expect(changesByItself(compare(fact))).toBe(false);
  expect(changesByItself({ kind: "not", of: compare("age") })).toBe(true);
  expect(changesByItself({ kind: "any", of: [compare("teamId"), compare("age")] })).toBe(true);
});
