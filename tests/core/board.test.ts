import { flowTimes } from "@/core/flow/time-in-state";
import fc from "fast-check";
import { ageTrack } from "@/core/board/age-track";
import { ladder, stagesOf, type Column } from "@/core/board/column";
import { changeFor } from "@/core/board/columns-by";
import {
  limitOfState,
  limitSentence,
  limitState,
  limitWords,
  NO_LIMIT,
  slots,
  stateLimitOf,
  stricterLimit,
  type ColumnLimit,
} from "@/core/board/limit";
import { cardOf, type Card } from "@/core/board/card";
import type { BoardView } from "@/core/board/board-view";
import { caughtUp, withChanges } from "@/ui/board/with-card";

import { factsOf } from "./setup/flow-by-history";
import { aged, DAY, history, Subject, workflow } from "./setup/make";

const limit = (min: number | null, max: number | null) => ({
  min,
  max,
  minFirm: true,
  maxFirm: true,
});

describe("limits", () => {
  test.each([
    // common practice, no source: limits 5 to 15 and 17 items are 2 over
    [17, limit(5, 15), "over", "2 over"],
    [4, limit(5, 15), "under", "pull 1 more"],
    [15, limit(5, 15), "full", "15 of 15"],
    [5, limit(5, 15), "within", "5 of 15"],
    [0, limit(null, 0), "full", "0 of 0"],
    [3, limit(null, null), "none", "3"],
  ])("%i items against %j are %s: %s", (count, l, kind, words) => {
    const state = limitState(count, l);
    expect(state.kind).toBe(kind);
    expect(limitWords(state, l)).toBe(words);
  });

  test("slots always add up to the items and never lose a place", () => {
    fc.assert(
      fc.property(fc.nat(40), fc.option(fc.nat(20)), fc.option(fc.nat(20)), (count, a, b) => {
        const [min, max] = a !== null && b !== null ? [Math.min(a, b), Math.max(a, b)] : [a, b];
        const drawn = slots(count, limit(min, max));
        expect(drawn.filled + drawn.beyond).toBe(count);
        if (max !== null) expect(drawn.filled + drawn.empty).toBe(Math.max(max, drawn.filled));
        expect(drawn.asBar).toBe(Math.max(max ?? Math.max(min ?? 0, count), count) > 12);
      }),
    );
  });
});

test.each<[string, Partial<ColumnLimit>, Partial<ColumnLimit>, Partial<ColumnLimit>]>([
  ["one of both", { max: 4, maxFirm: true }, {}, { max: 4, maxFirm: true }],
  ["the least maximum", { max: 4 }, { max: 7, maxFirm: true }, { max: 4, maxFirm: true }],
  ["the greatest minimum", { min: 1, minFirm: true }, { min: 3 }, { min: 3, minFirm: true }],
  ["a minimum within the maximum", { min: 5 }, { max: 3 }, { min: 3, max: 3 }],
  ["nothing of nothing", {}, { maxFirm: true, minFirm: true }, {}],
])("two limits of one thing as one: %s", (_, a, b, both) => {
  const limit = (change: Partial<ColumnLimit>) => ({ ...NO_LIMIT, ...change });
  expect(stricterLimit(limit(a), limit(b))).toEqual(limit(both));
  expect(stricterLimit(limit(b), limit(a))).toEqual(limit(both));
});

test.each([
  [null, "none", null],
  [{ max: 4, firm: true, min: null, minFirm: true }, "at most 4, firm", { max: 4, firm: true }],
  [
    { max: 4, firm: false, min: 2, minFirm: true },
    "at least 2, firm; at most 4",
    { max: 4, min: 2, minFirm: true },
  ],
  [{ max: null, firm: true, min: 0, minFirm: false }, "at least 0", { firm: false, min: 0 }],
  [
    { max: 8, firm: true, min: 3, minFirm: false, unit: "size" as const, level: null },
    "at least 3 in size; at most 8 in size, firm",
    { max: 8, firm: true, min: 3, unit: "size" },
  ],
  [
    { max: 8, firm: false, min: null, minFirm: false, level: 0, fixedDatePasses: true },
    "at most 8; only of level 0; fixed dates may pass",
    { max: 8, level: 0, fixedDatePasses: true },
  ],
  [{ max: null, firm: true, min: null, minFirm: true }, "none", null],
])("a state's limit %j reads %s, and comes back without what says nothing", (of, words, back) => {
  const limit = limitOfState(of);
  expect(limitSentence(limit)).toBe(words);
  const plain = { max: null, firm: false, min: null, minFirm: false };
  expect(stateLimitOf(limit)).toEqual(back && { ...plain, ...back });
});

test("columns of one stage stand together; the ladder is the mean over all finished items", () => {
  const column = (id: string, stage: string, part: Column["part"], position: number): Column => ({
    id,
    stage,
    name: id,
    part,
    position,
    stateIds: [id],
  });
  const columns = [
    column("In review", "Review", "working", 2),
    column("Waiting", "Review", "waiting", 1),
    column("Live", "Live", "finished", 3),
  ];
  expect(stagesOf(columns).map((s) => s.columns.map((c) => c.id))).toEqual([
    ["Waiting", "In review"],
    ["Live"],
  ]);
  const finished = [
    history("a", [
      ["Waiting", "waiting", 0, 2],
      ["In review", "working", 2, 3],
      ["Live", "finished", 3, null],
    ]),
    history("b", [
      ["In review", "working", 0, 1],
      ["Live", "finished", 1, null],
    ]),
  ];
  const { times } = factsOf(finished, { from: 0, to: 4 * DAY }, "UTC");
  expect(ladder(columns, flowTimes(times, 2), 2)).toEqual({
    Waiting: 1,
    "In review": 1,
    Live: null,
  });
  expect(ladder(columns, flowTimes([], 0), 0).Waiting).toBeNull();
});

test("an age track reaches to the expectation, and says in words when it is past the 85th percentile", () => {
  const percentiles = { p50: 4, p85: 8, p95: 12 };
  expect(ageTrack(aged(5), 10, percentiles)).toEqual({
    dot: 0.5,
    median: 0.4,
    p85: 0.8,
    past85: false,
    words: "5 d",
  });
  expect(ageTrack(aged(8), 10, percentiles).past85).toBe(false);
  expect(ageTrack(aged(20), 10, percentiles)).toMatchObject({
    dot: 1,
    past85: true,
    words: "20 d · past 85 %",
  });
  expect(ageTrack(aged(3), 10, { p50: null, p85: null, p95: null })).toMatchObject({
    median: null,
    past85: false,
  });
});

test("a drop on a label takes the place of the first one, on no label takes them all", () => {
  expect(changeFor("label", "C", { labels: ["A", "B"], parts: [] })).toEqual({
    labels: ["C", "B"],
  });
  expect(changeFor("label", "B", { labels: ["A", "B"], parts: [] })).toEqual({ labels: ["B"] });
  expect(changeFor("label", null, { labels: ["A", "B"], parts: [] })).toEqual({ labels: [] });
});

describe("a board that is read again", () => {
  const at = (subject: Subject): Card => ({ ...cardOf(subject.item!, "TIX") });
  const board = (cards: Card[]) =>
    ({
      cards,
      workflows: [workflow],
      columns: [{ stateIds: ["Ready"] }, { stateIds: ["Building"] }],
      around: {},
      finished: [],
      board: { columnsBy: "state", scoped: false, places: {} },
    }) as unknown as BoardView;

  test("does not put a card back to where it was when the answer was made; what was heard before it was asked is in it", () => {
    const subject = new Subject().move("Ready");
    const before = at(subject);
    subject.move("Building", { assigneeId: "noor" });
    const read = board([before]);
    const heard = [{ card: at(subject), at: 200 }];
    expect(caughtUp(read, heard, 100).cards.map((c) => c.stateId)).toEqual(["Building"]);
    expect(caughtUp(read, heard, 300)).toBe(read);
    // An answer that is newer than what was heard stays as it is.
    expect(
      caughtUp(board([at(subject)]), [{ card: before, at: 200 }], 100).cards.map((c) => c.stateId),
    ).toEqual(["Building"]);
  });
  test("takes in what came onto the board, and leaves out what went", () => {
    const subject = new Subject().move("Ready");
    const came = [{ card: at(subject), at: 200 }];
    expect(caughtUp(board([]), came, 100).cards.map((c) => c.key)).toEqual(["TIX-1"]);
    expect(
      caughtUp(
        board([at(subject)]),
        [{ card: { ...at(subject), version: 9, withdrawn: true }, at: 200 }],
        100,
      ).cards,
    ).toEqual([]);
  });

  const nothingElse = { around: {}, hidden: {}, limits: [], finished: null };
  test("of what was asked after keeps what is newer here, and lets go what has no answer", () => {
    const subject = new Subject().move("Ready");
    const before = at(subject);
    subject.move("Building", { assigneeId: "noor" });
    const after = at(subject);
    const here = { ...board([after]), around: { [after.id]: 1, other: 2 } } as never as BoardView;
    const told = { ...nothingElse, cards: [before], hidden: { Building: 2 } };
    const kept = withChanges(here, [after.id], told, new Set());
    expect(kept.cards).toEqual([after]);
    expect(kept.hidden).toEqual({ Building: 2 });
    expect(kept.around).toEqual({ other: 2 });
    const gone = { ...nothingElse, cards: [] };
    expect(withChanges(here, [after.id], gone, new Set()).cards).toEqual([]);
    expect(withChanges(here, [after.id], gone, new Set([after.id])).cards).toEqual([after]);
    expect(withChanges(here, [], gone, new Set()).cards).toEqual([after]);
    const newer = { ...nothingElse, cards: [after] };
    expect(withChanges(board([before]), [after.id], newer, new Set()).cards).toEqual([after]);
  });
});
