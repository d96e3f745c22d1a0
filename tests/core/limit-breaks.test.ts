import fc from "fast-check";
import { keepLimits, type HeldLimit, type LimitQuestion } from "@/core/board/keep-limits";
import { limitState, NO_LIMIT } from "@/core/board/limit";
import { PLAIN_COUNTING } from "@/core/board/limit-counting";
import type { CoveringLimit } from "@/core/board/limited";
import { withinLimits } from "@/core/item/within-limits";
import { isRefusal } from "@/core/workflow/refusal";
import type { LimitMode } from "@/core/workflow/requirement";
import { Subject, workflow } from "./setup/make";

const limit = (id: string, change: Partial<CoveringLimit> = {}): CoveringLimit => ({
  ...NO_LIMIT,
  ...PLAIN_COUNTING,
  id,
  name: id.toUpperCase(),
  ownerKind: "column",
  ownerId: id,
  boardId: "b",
  field: null,
  value: null,
  stateIds: [],
  level: 1,
  expeditePasses: false,
  minFirm: true,
  maxFirm: true,
  ...change,
});
const enters = (count: number, change: Partial<CoveringLimit>, id = "a"): HeldLimit => ({
  limit: limit(id, change),
  count,
  was: 0,
  becomes: 1,
});
const leaves = (count: number, change: Partial<CoveringLimit>, id = "b"): HeldLimit => ({
  ...enters(count, change, id),
  was: 1,
  becomes: 0,
});
const after = new Subject({ assigneeId: "noor" }).move("Ready").move("Building").item!;
const keep = (held: HeldLimit[], change: Partial<LimitQuestion> = {}) =>
  keepLimits({
    held,
    after,
    isReturn: false,
    mode: null,
    mayOverride: false,
    reason: "",
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

describe("a firm limit", () => {
  test("refuses what would exceed its maximum, and tells a member to ask a lead", () => {
    expect(keep([enters(3, { max: 3 })])).toMatchObject({
      refused: true,
      code: "limit",
      sentence: "A takes 3 items at most.",
      help: "Finish or move on one of those first, or ask a lead.",
      asks: [],
    });
    expect(keep([enters(1, { max: 1 })])).toMatchObject({ sentence: "A takes 1 item at most." });
  });

  test("refuses what would fall below its minimum", () => {
    expect(keep([leaves(2, { min: 2 })])).toMatchObject({
      sentence: "B keeps 2 items at least.",
      help: "Pull another item into it first, or ask a lead.",
    });
  });

  test("never keeps anything from being finished, or from going back", () => {
    const finished = { ...after, stateKind: "finished" as const };
    expect(keep([leaves(2, { min: 2 })], { after: finished })).toEqual([]);
    expect(keep([leaves(2, { min: 2 })], { isReturn: true })).toEqual([]);
  });

  test("lets a lead go beyond with a reason; blank is none", () => {
    const lead = { mayOverride: true };
    expect(keep([enters(3, { max: 3 })], lead)).toMatchObject({
      refused: true,
      help: "Finish or move on one of those first, or give a reason why this one goes beyond the limit.",
      asks: [{ field: "overrideReason", label: "Why beyond the limit?" }],
    });
    expect(keep([enters(3, { max: 3 })], { ...lead, reason: "the storm" })).toEqual([
      {
        columnId: "a",
        columnName: "A",
        side: "maximum",
        limit: 3,
        wouldHold: 4,
        firm: true,
        unit: "items",
      },
    ]);
    expect(keep([leaves(2, { min: 2 })], { ...lead, reason: "the storm" })).toMatchObject([
      { side: "minimum", limit: 2, wouldHold: 1 },
    ]);
    expect(keep([enters(3, { max: 3 })], { reason: "I want to" })).toMatchObject({
      refused: true,
    });
  });

  test("by summed size says so in its own words, and counts what the size becomes", () => {
    const grows: HeldLimit = { ...enters(20, { max: 20, unit: "size" }), was: 3, becomes: 5 };
    expect(keep([grows])).toMatchObject({ sentence: "A takes a size of 20 at most." });
    expect(keep([{ ...grows, count: 18 }])).toEqual([]);
    expect(keep([{ ...grows, was: 5, becomes: 3, count: 30 }])).toEqual([]);
  });

  test("lets a fixed date pass where it says so, with its day, and nothing else", () => {
    const held = [enters(3, { max: 3, fixedDatePasses: true })];
    const fixed = { ...after, classOfService: "fixed date" as const };
    expect(isRefusal(keep(held, { after: fixed }))).toBe(true);
    const due = { ...fixed, dueOn: "2026-12-24" };
    expect(keep(held, { after: due })).toMatchObject([{ wouldHold: 4 }]);
    expect(isRefusal(keep(held, { after: { ...due, classOfService: "intangible" } }))).toBe(true);
    expect(isRefusal(keep([enters(3, { max: 3 })], { after: due }))).toBe(true);
  });
});

test.each<[string, HeldLimit[]]>([
  ["a place is free", [enters(2, { max: 3 })]],
  ["there is one to spare", [leaves(3, { min: 2 })]],
  ["the minimum is advice", [leaves(2, { min: 2, minFirm: false })]],
  ["there is no limit", [leaves(0, {}), enters(900, {})]],
  ["what is over is left", [leaves(9, { max: 3 })]],
  ["what is under is entered", [enters(0, { min: 3 })]],
])("nothing is gone beyond when %s", (_when, held) => {
  expect(keep(held)).toEqual([]);
});

test("advice refuses nothing, and is said", () => {
  expect(keep([enters(3, { max: 3, maxFirm: false })])).toMatchObject([
    { columnId: "a", limit: 3, wouldHold: 4, firm: false },
  ]);
});

describe("what a process says of limits ahead", () => {
  const firm = [enters(3, { max: 3 })];
  const advice = [enters(3, { max: 3, maxFirm: false })];
  const go = (mode: LimitMode, held: HeldLimit[], change: Partial<LimitQuestion> = {}) =>
    keep(held, { mode, ...change });

  test("they are gone past, warned of, asked about or kept", () => {
    expect(go("ignore", firm)).toMatchObject([{ wouldHold: 4 }]);
    expect(go("warn", advice)).toMatchObject([{ wouldHold: 4 }]);
    expect(go("ask", advice)).toMatchObject({
      refused: true,
      asks: [{ field: "overrideReason", label: "Why beyond the limit?" }],
    });
    expect(go("ask", advice, { reason: "tide" })).toMatchObject([{ limit: 3 }]);
    expect(go("refuse", advice, { reason: "tide", mayOverride: true })).toMatchObject({
      refused: true,
      asks: [],
    });
  });

  test("nothing is said where there is room", () => {
    for (const mode of ["ignore", "warn", "ask", "refuse"] as const)
      expect(go(mode, [enters(2, { max: 3 })])).toEqual([]);
  });

  test("a firm limit wants a lead's reason, whatever they say short of going past it", () => {
    for (const mode of ["warn", "ask"] as const) {
      expect(go(mode, firm, { reason: "tide" })).toMatchObject({ refused: true, asks: [] });
      expect(isRefusal(go(mode, firm, { mayOverride: true, reason: "tide" }))).toBe(false);
    }
  });
});

test("changes that are each asked never go beyond a firm maximum, whatever they weigh", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 30 }),
      fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { maxLength: 60 }),
      (max, changes) => {
        let count = 0;
        for (const [was, becomes] of changes.filter(([from]) => from <= max)) {
          if (was > count) continue;
          const held = { ...enters(count, { max, unit: "size" }), was, becomes };
          if (!isRefusal(keep([held]))) count += becomes - was;
          expect(count).toBeLessThanOrEqual(max);
        }
      },
    ),
  );
});

describe("what a command came to, held against limits", () => {
  const subject = new Subject({ assigneeId: "noor" }).move("Ready").move("Building");
  const last = subject.events.filter((e) => e.seq === subject.item!.version);
  const decided = (reason?: string) => ({
    command: { kind: "move", from: "Ready", to: "Building", answers: {}, overrideReason: reason },
    transition: workflow.transitions.find((t) => t.to === "Building"),
    events: last,
    after: subject.item!,
  });
  const within = (held: HeldLimit[], reason?: string, lead = true) =>
    withinLimits(decided(reason) as Parameters<typeof withinLimits>[0], held, lead);

  test("goes on as it was where nothing is gone beyond", () => {
    expect(within([enters(1, { max: 3 })])).toEqual(last);
  });

  test("says first what it goes beyond, with the reason, and its events follow without a gap", () => {
    expect(within([enters(3, { max: 3 })], " the storm ")).toMatchObject([
      { kind: "overrode", seq: last[0].seq, note: "the storm", new: { columnName: "A" } },
      { kind: "moved", seq: last[0].seq + 1 },
    ]);
    expect(within([enters(3, { max: 3, maxFirm: false })], undefined, false)).toMatchObject([
      { kind: "overrode", note: null, new: { firm: false } },
      { kind: "moved" },
    ]);
    expect(isRefusal(within([enters(3, { max: 3 })], "tide", false))).toBe(true);
  });

  test("a reason comes with a move, an edit or a new item; what is taken back needs none and has none", () => {
    const command = (kind: string) =>
      withinLimits(
        { ...decided("tide"), command: { kind, overrideReason: "tide" } } as never,
        [enters(3, { max: 3 })],
        true,
      );
    for (const kind of ["move", "edit", "create"])
      expect(command(kind)).toMatchObject([{ kind: "overrode", note: "tide" }, { kind: "moved" }]);
    for (const kind of ["undo", "put under"])
      expect(command(kind)).toMatchObject({ refused: true, asks: [] });
  });
});
