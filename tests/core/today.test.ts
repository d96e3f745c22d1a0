import fc from "fast-check";
import type { Card } from "@/core/board/card";
import { DAY } from "@/core/calendar/instant";
import { pullNext, type Pullable } from "@/core/plan/pull-next";
import { arrangeDay } from "@/core/today/arrange";
import { addDays } from "@/core/calendar/month";
import { DAY_PART_NAMES, type DayFacts, type DayItem, type DayPart } from "@/core/today/day";
import { MOST_SMALL_THINGS, smallThings, type KeptItem } from "@/core/today/housekeeping";
import { daySentence, waitingCount } from "@/core/today/sentence";

const TODAY = "2026-11-27";
const card = (id: string, more: Partial<Card> = {}): Card =>
  ({
    id,
    key: `TIX-${id}`,
    title: id,
    typeId: "story",
    classOfService: "standard",
    dueOn: null,
    assigneeId: "ada",
    stateKind: "working",
    openBlockers: [],
    clock: [],
    estimate: 1,
    sprintId: null,
    ...more,
  }) as unknown as Card;
const item = (id: string, more: Partial<DayItem> = {}, cardMore: Partial<Card> = {}): DayItem => ({
  card: card(id, cardMore),
  projectKey: "TIX",
  stateName: "Building",
  stateKind: "working",
  ofReview: false,
  ofTest: false,
  forAssignee: true,
  track: null,
  share: 0.5,
  pastExpectation: null,
  next: { verb: "Hand on", to: "next" },
  mine: { assignee: true, reviewer: false, tests: false },
  reviewerName: null,
  blocked: null,
  since: "2 days",
  byDue: null,
  ...more,
});
const arranged = (items: DayItem[], more: Partial<DayFacts> = {}) =>
  arrangeDay({
    items,
    asked: [],
    asking: [],
    news: [],
    changed: [],
    shown: [],
    today: TODAY,
    now: 0,
    ...more,
  });
const partOf = (
  items: DayItem[],
  id: string,
  more: Partial<DayFacts> = {},
): DayPart | undefined => {
  const day = arranged(items, more);
  return DAY_PART_NAMES.find((part) => day[part].some((line) => line.card.id === id));
};
const OTHERS = { assignee: false, reviewer: false, tests: false };

test("what has a day to hold says how likely that is, where something says it", () => {
  const due = { dueOn: addDays(TODAY, 20) };
  const day = arranged([
    item("known", { byDue: 0.624 }, due),
    item("unknown", {}, due),
    item("none", { byDue: 0.5 }),
    item("waiting", { stateKind: "unstarted", byDue: null }, { dueOn: addDays(TODAY, 3) }),
  ]);
  const reasonOf = (id: string) =>
    Object.values(day)
      .flat()
      .find((line) => line.card.id === id)!.reason;
  expect(reasonOf("known")).toMatch(/^Building 2 days · due \d+ \w+, 62 % sure by then$/);
  expect(reasonOf("unknown")).toMatch(/ · due \d+ \w+$/);
  expect(reasonOf("none")).toBe("Building 2 days");
  expect(reasonOf("waiting")).not.toContain("sure");
});

describe("where an item stands in somebody's day", () => {
  const question = { itemId: "a", commentId: "k", who: "Bo", words: "How long?" };
  test.each<[string, DayItem, Partial<DayFacts>, DayPart | undefined]>([
    ["mine and worked on", item("a"), {}, "hands"],
    ["due today, whatever else", item("a", { ofReview: true }, { dueOn: TODAY }), {}, "missed"],
    [
      "due yesterday and asked about",
      item("a", {}, { dueOn: "2026-11-26" }),
      { asked: [question] },
      "missed",
    ],
    ["asked about", item("a"), { asked: [question] }, "waits"],
    [
      "in its review, and I review it",
      item("a", { ofReview: true, mine: { ...OTHERS, reviewer: true } }),
      {},
      "waits",
    ],
    [
      "waits for a test, and I test",
      item("a", { ofTest: true, stateKind: "waiting", mine: { ...OTHERS, tests: true } }),
      {},
      "waits",
    ],
    [
      "is being tested by somebody",
      item("a", { ofTest: true, stateKind: "working", mine: { ...OTHERS, tests: true } }),
      {},
      undefined,
    ],
    [
      "blocked, and the blocker waits for me",
      item("a", { mine: OTHERS, blocked: { words: "blocked: key", byMe: true } }),
      {},
      "waits",
    ],
    [
      "mine and blocked by others",
      item("a", { blocked: { words: "blocked: x", byMe: false } }),
      {},
      "awaited",
    ],
    [
      "mine, and others review it",
      item("a", { ofReview: true, forAssignee: false }),
      {},
      "awaited",
    ],
    ["I asked, and it is not mine", item("a", { mine: OTHERS }), { asking: [question] }, "awaited"],
    [
      "not begun, due in a week",
      item("a", { stateKind: "unstarted", forAssignee: true }, { dueOn: "2026-12-04" }),
      {},
      "dates",
    ],
    [
      "not begun, due later",
      item("a", { stateKind: "unstarted" }, { dueOn: "2026-12-05" }),
      {},
      undefined,
    ],
    [
      "mine, and what was agreed has changed",
      item("a"),
      { changed: [{ itemId: "a", words: "Bo changed the estimate" }] },
      "waits",
    ],
    [
      "only told of",
      item("a", { mine: OTHERS }),
      { news: [{ itemId: "a", alertIds: ["n"], words: "Bo commented" }] },
      "fresh",
    ],
  ])("%s", (_name, one, more, part) => expect(partOf([one], "a", more)).toBe(part));

  test("what is at risk most stands first, and what is expedite before it", () => {
    const day = arranged([
      item("a", { share: 0.2 }),
      item("b", { share: 1.4 }),
      item("c", { share: 0.1 }, { classOfService: "expedite" }),
    ]);
    expect(day.hands.map(({ card: { id } }) => id)).toEqual(["c", "b", "a"]);
  });

  test("each item stands once, whatever is true of it, and every started one of mine stands somewhere", () => {
    const flag = fc.boolean();
    const any = fc
      .record({
        ofReview: flag,
        ofTest: flag,
        forAssignee: flag,
        stateKind: fc.constantFrom("unstarted", "waiting", "working" as const),
        mine: fc.record({ assignee: flag, reviewer: flag, tests: flag }),
        blocked: fc.option(fc.record({ words: fc.constant("blocked"), byMe: flag })),
        dueOn: fc.constantFrom(null, "2026-11-20", TODAY, "2026-12-01", "2027-03-01"),
        share: fc.double({ min: 0, max: 3, noNaN: true }),
      })
      .map(({ dueOn, ...more }) => ({ dueOn, more: more as Partial<DayItem> }));
    fc.assert(
      fc.property(fc.array(any, { maxLength: 8 }), flag, (all, asks) => {
        const items = all.map(({ dueOn, more }, i) => item(String(i), more, { dueOn }));
        const questions = asks
          ? items.map(({ card: { id } }) => ({ ...question, itemId: id }))
          : [];
        const day = arranged(items, { asked: questions.slice(0, 2), asking: questions });
        const ids = DAY_PART_NAMES.flatMap((part) => day[part].map((line) => line.card.id));
        expect(new Set(ids).size).toBe(ids.length);
        for (const one of items)
          if (one.mine.assignee && one.stateKind !== "unstarted")
            expect(ids).toContain(one.card.id);
      }),
    );
  });
});

test("a sentence says how the day stands, the urgent first", () => {
  const words = (items: DayItem[], room: number | null) =>
    daySentence(arranged(items), room)
      .map((part) => part.words)
      .join(", ");
  expect(words([], null)).toBe("Nothing waits for you");
  expect(words([item("a")], 2)).toBe(
    "Nothing waits for you but the 1 item in your hands, you have room for 2 more items",
  );
  const busy = [
    item("a", {}, { dueOn: TODAY }),
    item("b", { ofReview: true, mine: { ...OTHERS, reviewer: true } }),
    item("c", { pastExpectation: "3 d past what is expected" }),
  ];
  expect(words(busy, -1)).toBe(
    "1 date is missed or today, 1 thing waits for you, 1 item in your hands is late, you hold 1 item more than you may",
  );
  expect(waitingCount(arranged(busy))).toBe(2);
});

describe("what to pull next", () => {
  const row = (
    id: string,
    more: Partial<Pullable> = {},
    cardMore: Partial<Card> = {},
  ): Pullable => ({
    card: card(id, { assigneeId: null, stateKind: "unstarted", ...cardMore }),
    move: { verb: "Pull", to: "build" },
    waitsFor: 0,
    frees: [],
    alike: null,
    ...more,
  });
  const order = (rows: Pullable[], p85: number | null = 10) =>
    pullNext(rows, { personId: "ada", today: TODAY, p85 }).map((one) => one.card.id);

  test("by rank, without what cannot be taken", () => {
    const rows = [
      row("waits", { waitsFor: 1 }),
      row("others", {}, { assigneeId: "bo" }),
      row("no way in", { move: null }),
      row("mine", {}, { assigneeId: "ada" }),
      row("free"),
    ];
    expect(order(rows)).toEqual(["mine", "free"]);
  });

  test("expedite first, then dates that would not be kept, whatever their rank", () => {
    const rows = [
      row("a"),
      row("late date", {}, { classOfService: "fixed date", dueOn: "2026-12-05" }),
      row("far date", {}, { classOfService: "fixed date", dueOn: "2027-02-05" }),
      row("haste", {}, { classOfService: "expedite" }),
    ];
    expect(order(rows)).toEqual(["haste", "late date", "a", "far date"]);
    // Without enough finished items nobody knows how long it takes: only what is due today presses.
    expect(order(rows, null)).toEqual(["haste", "a", "late date", "far date"]);
    const [pressing] = pullNext([rows[1]], { personId: "ada", today: TODAY, p85: 10.2 });
    expect(pressing.words).toMatch(/^It is due .* 5 December, and 85 % are done within 11 days\.$/);
  });

  test("freeing others and having done the like choose among the first five alone", () => {
    const five = ["a", "b", "c", "d", "e"].map((id) => row(id));
    const freeing = row("frees", { frees: ["TIX-9"] });
    expect(order([...five, freeing])[0]).toBe("a");
    expect(order([...five.slice(1), freeing])[0]).toBe("frees");
    const alike = row("alike", { alike: { count: 3, by: "prices" } });
    expect(order([row("a"), alike])[0]).toBe("alike");
    expect(order([alike, freeing])[0]).toBe("frees");
    const [said] = pullNext([row("a"), freeing], { personId: "ada", today: TODAY, p85: null });
    expect(said.words).toBe("It frees TIX-9.");
  });
});

describe("small things", () => {
  const now = 100 * DAY;
  const kept = (more: Partial<KeptItem>, cardMore: Partial<Card> = {}): KeptItem => ({
    card: card("a", cardMore),
    projectKey: "TIX",
    level: 1,
    updatedAt: now,
    createdAt: now - 60 * DAY,
    mine: true,
    led: false,
    isBug: false,
    working: true,
    ...more,
  });
  const things = (one: KeptItem, rested = false) =>
    smallThings([one], () => rested, now).map(({ thing }) => thing);

  test.each([
    ["touched just now", kept({ updatedAt: now - 4 * DAY + 1 }), []],
    ["untouched for four days", kept({ updatedAt: now - 4 * DAY }), ["untouched"]],
    ["of somebody else", kept({ mine: false, updatedAt: 0 }), []],
    [
      "without an owner, for its lead",
      kept({ mine: false, led: true }, { assigneeId: null }),
      ["no owner"],
    ],
    ["without an owner, for others", kept({ mine: false }, { assigneeId: null }), []],
    ["in the sprint without a size", kept({}, { sprintId: "s", estimate: null }), ["no size"]],
    ["a task in the sprint", kept({ level: 0 }, { sprintId: "s", estimate: null }), []],
    [
      "an old bug without a size",
      kept(
        { mine: false, led: true, isBug: true, working: false },
        { stateKind: "unstarted", estimate: null },
      ),
      ["unsized bug"],
    ],
    [
      "a new bug",
      kept(
        { mine: false, led: true, isBug: true, working: false, createdAt: now - 13 * DAY },
        { stateKind: "unstarted", estimate: null },
      ),
      [],
    ],
  ])("%s", (_name, one, expected) => expect(things(one)).toEqual(expected));

  test("that were put to rest stay away, and they are never a second list of work", () => {
    expect(things(kept({ updatedAt: 0 }), true)).toEqual([]);
    const many = Array.from({ length: 50 }, () => kept({ updatedAt: 0 }));
    expect(smallThings(many, () => false, now)).toHaveLength(MOST_SMALL_THINGS);
  });
});
