import { actWords, bulkAct, commandFor, type BulkAct } from "@/core/item/bulk/act";
import { forecastWords, gatherLeftOut, isGoingOn, leftOutCount } from "@/core/item/bulk/job";
import { NONE_CHOSEN, withWhole, withRun, withTurned, type ChosenIds } from "@/core/board/choose";
import { VOCABULARY } from "./setup/conditions";
import { plainItem } from "./setup/make";

const act = (given: unknown): BulkAct => bulkAct.parse(given);
const item = { ...plainItem, labels: ["pier", "night"], assigneeId: "noor", own: { size: 3 } };

describe("the command that an act is for one item", () => {
  test("moves from where the item stands; one that is there already is left alone", () => {
    const move = act({ kind: "move", to: "s9", answers: { reason: "So" } });
    expect(commandFor(move, item)).toMatchObject({
      kind: "move",
      from: item.stateId,
      to: "s9",
      answers: { reason: "So" },
    });
    expect(commandFor(move, { ...item, stateId: "s9" })).toBeNull();
  });
  test("sets only what is not so yet, seen as it is now", () => {
    const set = act({
      kind: "set",
      changes: { assigneeId: "noor", priority: "high" },
      own: { size: 3 },
    });
    expect(commandFor(set, item)).toEqual({
      kind: "edit",
      seenVersion: item.version,
      changes: { priority: "high" },
      own: {},
    });
    expect(commandFor(set, { ...item, priority: "high" })).toBeNull();
    expect(commandFor(act({ kind: "set", changes: {}, own: { size: 4 } }), item)).toMatchObject({
      own: { size: 4 },
    });
  });
  test("adds labels behind the others and takes some away, each once", () => {
    const label = act({ kind: "label", add: ["pier", "day"], remove: ["night"] });
    expect(commandFor(label, item)).toMatchObject({ changes: { labels: ["pier", "day"] } });
    expect(commandFor(act({ kind: "label", add: ["pier"] }), item)).toBeNull();
    expect(commandFor(act({ kind: "label", remove: ["gone"] }), item)).toBeNull();
  });
  test("ranks at the top, or behind the last; the last stays", () => {
    expect(commandFor(act({ kind: "rank", end: "top" }), item)).toEqual({
      kind: "place",
      below: null,
    });
    const bottom = act({ kind: "rank", end: "bottom" });
    expect(commandFor(bottom, item, "other")).toEqual({ kind: "place", below: "other" });
    expect(commandFor(bottom, item, item.id)).toBeNull();
    expect(commandFor(bottom, item, null)).toBeNull();
  });
});

test.each<[unknown, string]>([
  [{ kind: "set", changes: { assigneeId: null, sprintId: "sp1" } }, "set assignee, sprint"],
  [{ kind: "label", add: ["a", "b"], remove: ["c"] }, "labelled a, b, no more labelled c"],
  [{ kind: "rank", end: "bottom" }, "put at the bottom of the order"],
  [{ kind: "block", cause: "Storm" }, "blocked: Storm"],
  [{ kind: "put under", parentKey: "TIX-4" }, "put under TIX-4"],
  [{ kind: "put under", parentKey: null }, "put under nothing"],
])("%j is told as “%s”", (given, words) => expect(actWords(act(given), VOCABULARY)).toBe(words));

describe("what was left out", () => {
  const leftOut = gatherLeftOut([
    { sentence: "It is full.", key: "TIX-1" },
    { sentence: "It needs a reviewer.", key: "TIX-2" },
    { sentence: "It is full.", key: null },
  ]);
  test("is told once for each reason, counted with what may not be seen, the most first", () => {
    expect(leftOut).toEqual([
      { sentence: "It is full.", count: 2, keys: ["TIX-1"] },
      { sentence: "It needs a reviewer.", count: 1, keys: ["TIX-2"] },
    ]);
    expect(leftOutCount(leftOut)).toBe(3);
  });
  test("is said before it is done, of the first where there are many", () => {
    const forecast = { total: 5, tried: 5, goes: 1, same: 1, leftOut, asks: [] };
    expect(forecastWords(forecast)).toBe(
      "1 goes, 1 is so already, 3 are refused: It is full. It needs a reviewer.",
    );
    expect(
      forecastWords({ ...forecast, total: 900, tried: 50, goes: 47, same: 0, leftOut: [] }),
    ).toBe("Of the first 50 of 900 items: 47 go");
  });
  test("a job goes on until it is done or stopped", () => {
    expect(
      (["waiting", "running", "done", "cancelled"] as const).map((state) => isGoingOn({ state })),
    ).toEqual([true, true, false, false]);
  });
});

describe("choosing among columns", () => {
  const columns = [
    ["a", "b", "c", "d"],
    ["e", "f"],
  ];
  const ids = (chosen: ChosenIds) => [...chosen.ids].join("");
  test("one by one, on and off", () => {
    const two = withTurned(withTurned(NONE_CHOSEN, "b"), "e");
    expect(ids(two)).toBe("be");
    expect(ids(withTurned(two, "b"))).toBe("e");
  });
  test("a run within one column, either way; from another column it begins anew", () => {
    expect(ids(withRun(withTurned(NONE_CHOSEN, "b"), "d", columns))).toBe("bcd");
    expect(ids(withRun(withTurned(NONE_CHOSEN, "c"), "a", columns))).toBe("cab");
    expect(ids(withRun(withTurned(NONE_CHOSEN, "a"), "f", columns))).toBe("af");
    expect(ids(withRun(NONE_CHOSEN, "b", columns))).toBe("b");
    expect(ids(withRun(NONE_CHOSEN, "in no column", columns))).toBe("in no column");
  });
  test("a whole column", () => {
    expect(ids(withWhole(withTurned(NONE_CHOSEN, "f"), columns))).toBe("fe");
    expect(ids(withWhole(NONE_CHOSEN, columns))).toBe("");
  });
});
