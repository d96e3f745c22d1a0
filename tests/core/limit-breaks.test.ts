import {
  brokenFirmLimits,
  brokenMaximum,
  limitState,
  type LimitedColumn,
} from "@/core/board/limit";

const column = (id: string, count: number, change: Partial<LimitedColumn> = {}): LimitedColumn => ({
  id,
  name: id.toUpperCase(),
  count,
  min: null,
  max: null,
  minFirm: true,
  maxFirm: true,
  ...change,
});

describe("where a count stands", () => {
  test.each([
    [0, null, null, { kind: "none", count: 0 }],
    [3, null, 5, { kind: "within", count: 3, free: 2 }],
    [3, 1, null, { kind: "within", count: 3, free: null }],
    [3, 1, 5, { kind: "within", count: 3, free: 2 }],
    [1, 1, 5, { kind: "within", count: 1, free: 4 }],
    [5, 1, 5, { kind: "full", count: 5, max: 5 }],
    [6, null, 5, { kind: "over", count: 6, max: 5, by: 1 }],
    [0, 2, null, { kind: "under", count: 0, min: 2, by: 2 }],
    // Over wins against under, should both be asked for at once.
    [6, 8, 5, { kind: "over", count: 6, max: 5, by: 1 }],
  ])("%i against %p to %p", (count, min, max, state) => {
    expect(limitState(count, { min, max, minFirm: false, maxFirm: false })).toEqual(state);
  });
});

describe("firm limits that a move would break", () => {
  test("the maximum of the column entered, with what it would hold", () => {
    expect(brokenFirmLimits([], [column("a", 3, { max: 3 })])).toEqual([
      { columnId: "a", columnName: "A", side: "maximum", limit: 3, wouldHold: 4 },
    ]);
  });

  test("the minimum of the column left, with what it would hold", () => {
    expect(brokenFirmLimits([column("b", 2, { min: 2 })], [])).toEqual([
      { columnId: "b", columnName: "B", side: "minimum", limit: 2, wouldHold: 1 },
    ]);
  });

  test.each([
    ["a place is free", [], [column("a", 2, { max: 3 })]],
    ["there is one to spare", [column("b", 3, { min: 2 })], []],
    ["the maximum is advice", [], [column("a", 3, { max: 3, maxFirm: false })]],
    ["the minimum is advice", [column("b", 2, { min: 2, minFirm: false })], []],
    ["there is no limit", [column("b", 0)], [column("a", 900)]],
    ["what is over is left", [column("b", 9, { max: 3 })], []],
    ["what is under is entered", [], [column("a", 0, { min: 3 })]],
    ["it stays in the column", [column("a", 3, { max: 3 })], [column("a", 3, { max: 3 })]],
    ["it stays in the short column", [column("a", 2, { min: 2 })], [column("a", 2, { min: 2 })]],
  ])("none when %s", (_when, left, entered) => {
    expect(brokenFirmLimits(left, entered)).toEqual([]);
  });

  test("a column that is only left or only entered counts, whatever else stays", () => {
    const stays = column("s", 5, { min: 5, max: 5 });
    const breaks = brokenFirmLimits(
      [stays, column("b", 2, { min: 2 })],
      [stays, column("a", 3, { max: 3 })],
    );
    expect(breaks.map((b) => [b.columnId, b.side])).toEqual([
      ["a", "maximum"],
      ["b", "minimum"],
    ]);
  });
});

describe("maximums that a move would exceed, firm or advice", () => {
  test("advice counts too", () => {
    const advice = column("a", 3, { max: 3, maxFirm: false });
    expect(
      brokenMaximum([column("b", 1)], [advice, column("c", 3, { max: 4 }), column("d", 9)]),
    ).toEqual([{ columnId: "a", columnName: "A", side: "maximum", limit: 3, wouldHold: 4 }]);
  });

  test("a column that is left and entered stays as it is", () => {
    const full = column("a", 3, { max: 3 });
    expect(brokenMaximum([column("b", 1), full], [full])).toEqual([]);
  });
});
