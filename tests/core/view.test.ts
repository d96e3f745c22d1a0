import fc from "fast-check";
import type { Condition } from "@/core/condition/condition";
import { EVERY_ITEM } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import { NOTHING_AROUND, type AskedItem, type FactName } from "@/core/condition/facts";
import { factsOffered } from "@/core/condition/vocabulary";
import { isGroupable, isSortable } from "@/core/item/list/query";
import { isCounted, isListed } from "@/core/item/list/listed";
import { PRIORITIES } from "@/core/item/fields";
import { lanesByField, type Lanes } from "@/core/board/lanes-by";
import { CARD_MORE, DENSITIES, isOnCard, SIGNS, TONES, USUAL_CARDS } from "@/core/board/card-look";
import { readLook, writeLook } from "@/core/view/address";
import { nearlyAlike } from "@/core/view/alike";
import { differences, type LookNames } from "@/core/view/differences";
import {
  chosenIn,
  choosing,
  filterOf,
  filterParts,
  isFiltering,
  withPart,
  withPartAt,
  withTurned,
  withValueTurned,
  type ChoiceValue,
} from "@/core/view/filter";
import { partText } from "@/core/view/filter-words";
import { goneFields } from "@/core/view/gone";
import {
  followedLook,
  isColumn,
  lookSchema,
  PLAIN_LOOK,
  sameLook,
  storedLook,
  type Look,
} from "@/core/view/look";
import { isNarrowedTo, narrowedTo, narrowedToo, withoutNarrowing } from "@/core/view/narrow";
import { viewBody } from "@/core/view/view";
import { CHILDREN_SHOWN } from "@/core/board/children";
import { isAmount } from "@/core/item/amount";
import { ZOOMS } from "@/core/timeline/scale";
import { anyCondition, VOCABULARY } from "./setup/conditions";
import { plainItem } from "./setup/make";

const is = (fact: FactName, value: string): Condition => ({
  kind: "compare",
  fact,
  op: "is",
  value,
});
const BUG = is("typeId", "bug");
const STORY = is("typeId", "story");
const OLD: Condition = { kind: "compare", fact: "age", op: "more than", value: 5 };
const asker: Asker = {
  personId: "noor",
  teamIds: ["quayside"],
  now: Date.UTC(2026, 10, 27),
  zone: "Europe/London",
  sprints: { current: "sp1", next: null, previous: null },
};
const names: LookNames = {
  vocabulary: VOCABULARY,
  boards: [{ id: "b1", name: "Pier" }],
  named: [],
};

describe("a filter as a line of parts", () => {
  test("several values of a field mean any of them, whatever else stands there", () => {
    const filter = withPart(withPart(withPart(EVERY_ITEM, BUG), OLD), STORY);
    expect(filterParts(filter)).toEqual([
      { kind: "compare", fact: "typeId", op: "one of", value: ["bug", "story"] },
      OLD,
    ]);
    expect(withPart(filter, OLD)).toBe(filter);
  });
  test("nobody and somebody together are one part", () => {
    const part = choosing({ fact: "assigneeId", values: ["noor", null, { who: "me" }] })!;
    expect(partText(part, VOCABULARY)).toMatch(/assignee .*, me or nobody$/);
    const item = (assigneeId: string | null): AskedItem => ({
      ...NOTHING_AROUND,
      item: { ...plainItem, assigneeId },
    });
    expect([null, "noor", "ivo"].map((who) => holds(part, item(who), asker))).toEqual([
      true,
      true,
      false,
    ]);
  });
  test("what is chosen is read back as it was chosen", () => {
    const values = fc.uniqueArray(
      fc.constantFrom<ChoiceValue>("noor", "ivo", null, { who: "me" }, "tomas"),
      { minLength: 1, selector: (value) => JSON.stringify(value) },
    );
    fc.assert(
      fc.property(values, (chosen) => {
        const read = chosenIn(choosing({ fact: "assigneeId", values: chosen })!)!;
        const texts = (all: readonly ChoiceValue[]) => all.map((v) => JSON.stringify(v)).sort();
        expect(texts(read.values)).toEqual(texts(chosen));
      }),
    );
  });
  test("a part more never lets through what was left out, unless it is another value of a field", () => {
    const states = fc.constantFrom(...PRIORITIES);
    fc.assert(
      fc.property(anyCondition(VOCABULARY), OLD_OR_NEW, states, (filter, part, priority) => {
        const asked = { ...NOTHING_AROUND, item: { ...plainItem, priority } };
        const both = withPart(filter, part);
        if (chosenIn(part) === null)
          expect(holds(both, asked, asker)).toBe(
            holds(filter, asked, asker) && holds(part, asked, asker),
          );
        else if (holds(part, asked, asker) && holds(filter, asked, asker))
          expect(holds(both, asked, asker)).toBe(true);
      }),
    );
  });
  test("a part is put in another's place, taken out, turned on and off", () => {
    const filter = withPart(withPart(EVERY_ITEM, BUG), OLD);
    expect(filterParts(withPartAt(filter, 0, STORY))).toEqual([STORY, OLD]);
    expect(withPartAt(filter, 1, null)).toEqual(BUG);
    expect(isFiltering(withPartAt(BUG, 0, null))).toBe(false);
    expect(isFiltering(withTurned(BUG, BUG))).toBe(false);
    expect(filterParts(withTurned(BUG, OLD))).toEqual([BUG, OLD]);
  });
  test("a value is turned on and off; the last one takes the part with it", () => {
    const turn = (part: Condition, value: ChoiceValue) => withValueTurned(chosenIn(part)!, value);
    const two = turn(BUG, "story")!;
    expect(chosenIn(two)?.values).toEqual(["bug", "story"]);
    const one = turn(two, "bug")!;
    expect(one).toEqual(STORY);
    expect(isFiltering(withPartAt(one, 0, turn(one, "story")))).toBe(false);
    expect(filterParts(withPart(OLD, BUG))).toEqual([OLD, BUG]);
  });
  test("what says something else than a choice is no choice", () => {
    const no = (condition: Condition) => expect(chosenIn(condition)).toBeNull();
    no(OLD);
    no({ kind: "not", of: BUG });
    no({ kind: "compare", fact: "typeId", op: "is not", value: "bug" });
    no({ kind: "any", of: [BUG, is("priority", "high")] });
    no({ kind: "compare", fact: "assigneeId", op: "is", value: { fact: "reviewerId" } });
    expect(choosing({ fact: "typeId", values: [] })).toBeNull();
  });
});

describe("narrowing to the values of a field", () => {
  const NOBODY: Condition = { kind: "compare", fact: "assigneeId", op: "is empty", value: null };
  const [ME, NOOR] = [is("assigneeId", "ines"), is("assigneeId", "noor")];
  const kept = filterOf([OLD, BUG]);

  test("shows one, and all again when it is pointed at once more; everything else stays", () => {
    const one = narrowedTo(kept, "assigneeId", ME);
    expect(filterParts(one)).toEqual([OLD, BUG, ME]);
    expect(narrowedTo(one, "assigneeId", NOBODY)).toEqual(filterOf([OLD, BUG, NOBODY]));
    expect(narrowedTo(one, "assigneeId", ME)).toEqual(kept);
    expect(withoutNarrowing(one, "assigneeId")).toEqual(kept);
  });

  test("takes in another, and leaves it out; the part stays one that can be chosen from", () => {
    const both = narrowedToo(narrowedTo(kept, "assigneeId", ME), "assigneeId", NOBODY);
    expect(chosenIn(filterParts(both)[2])).toEqual({ fact: "assigneeId", values: ["ines", null] });
    const three = narrowedToo(both, "assigneeId", NOOR);
    expect([ME, NOOR, NOBODY].map((one) => isNarrowedTo(three, "assigneeId", one))).toEqual([
      true,
      true,
      true,
    ]);
    const back = [ME, NOBODY, NOOR].reduce(
      (filter, one) => narrowedToo(filter, "assigneeId", one),
      three,
    );
    expect(back).toEqual(kept);
    expect(isNarrowedTo(three, "reviewerId", is("reviewerId", "ines"))).toBe(false);
  });

  test("also to what is no choice: stretches of days, labels; one of several replaces all", () => {
    const age = (...of: Condition[]): Condition => ({ kind: "all", of });
    const compare = (op: "at least" | "less than", value: number): Condition => ({
      kind: "compare",
      fact: "age",
      op,
      value,
    });
    const [young, old] = [
      age(compare("at least", 1), compare("less than", 3)),
      compare("at least", 14),
    ];
    const both = narrowedToo(narrowedToo(BUG, "age", old), "age", young);
    expect(filterParts(both)).toEqual([BUG, { kind: "any", of: [old, young] }]);
    expect([young, old].map((one) => isNarrowedTo(both, "age", one))).toEqual([true, true]);
    expect(narrowedTo(both, "age", old)).toEqual(filterOf([BUG, old]));
    expect(withoutNarrowing(both, "age")).toEqual(BUG);
    const one = narrowedTo(BUG, "age", young);
    expect([young, old].map((band) => isNarrowedTo(one, "age", band))).toEqual([true, false]);
    expect(narrowedTo(one, "age", young)).toEqual(BUG);
    expect(filterParts(narrowedToo(one, "age", old))).toEqual([
      BUG,
      { kind: "any", of: [young, old] },
    ]);
  });
});

const OLD_OR_NEW = fc.constantFrom<Condition>(OLD, BUG, is("priority", "high"));

const anyLook = (): fc.Arbitrary<Look> => {
  const facts = (fits: (fact: FactName) => boolean) =>
    fc.constantFrom(...factsOffered(VOCABULARY).filter(fits));
  return fc.record({
    arrangement: fc.constantFrom("board" as const, "table" as const, "timeline" as const),
    board: fc.option(fc.constantFrom("b1", "b-2")),
    lanes: fc.record({
      by: fc.oneof(
        fc.constantFrom<Lanes["by"][]>({ kind: "none" }, { kind: "parent" }),
        facts(isCounted).map((fact) => ({ kind: "field" as const, fact })),
        anyCondition(VOCABULARY).map((condition) => ({
          kind: "conditions" as const,
          of: [{ name: "Quay & pier", condition }],
        })),
      ),
      teamId: fc.constantFrom(null, "quayside"),
      rest: fc.constantFrom("below" as const, "above" as const),
      empty: fc.boolean(),
    }),
    cards: fc.record({
      facts: fc.uniqueArray(facts(isOnCard), { maxLength: 5 }),
      more: fc.uniqueArray(fc.constantFrom(...CARD_MORE)),
      stayFrom: fc.integer({ min: 0, max: 365 }),
      density: fc.constantFrom(...DENSITIES),
      marks: fc.array(
        fc.record({
          word: fc.constantFrom("due & soon", "fog"),
          sign: fc.constantFrom(...SIGNS),
          tone: fc.constantFrom(...TONES),
          condition: anyCondition(VOCABULARY),
        }),
        { maxLength: 2 },
      ),
    }),
    children: fc.option(fc.constantFrom(...CHILDREN_SHOWN)),
    scope: anyCondition(VOCABULARY),
    filter: anyCondition(VOCABULARY),
    group: fc.option(facts(isGroupable)),
    sort: fc.array(fc.record({ fact: facts(isSortable), descending: fc.boolean() }), {
      maxLength: 3,
    }),
    fields: fc.uniqueArray(
      fc.record({
        fact: facts((fact) => isColumn(fact) && isListed(fact)),
        width: fc.option(fc.integer({ min: 48, max: 800 })),
      }),
      { maxLength: 6, selector: (field) => field.fact },
    ),
    sum: fc.option(facts(isAmount)),
    counts: fc.uniqueArray(facts(isCounted), { maxLength: 6 }),
    dense: fc.boolean(),
    zoom: fc.constantFrom(...ZOOMS),
  });
};

describe("a look in an address", () => {
  test("is read as it was written, whatever it began as, also through a browser's address", () => {
    fc.assert(
      fc.property(anyLook(), anyLook(), (kept, shown) => {
        const address = new URLSearchParams(writeLook(kept, shown)).toString();
        const search = Object.fromEntries(new URLSearchParams(address));
        const { look, unread } = readLook(kept, search);
        expect(unread).toEqual([]);
        expect(sameLook(look, shown)).toBe(true);
      }),
      { numRuns: 300 },
    );
  });
  test("says nothing of what is the same, and keeps what is readable beside what is not", () => {
    expect(writeLook(PLAIN_LOOK, PLAIN_LOOK)).toEqual({});
    const { look, unread } = readLook(PLAIN_LOOK, {
      as: "table",
      groups: "title",
      only: '{"kind":"compare"',
      sort: "-age~nonsense",
      rows: "narrow",
      columns: `${"age~".repeat(30)}priority`,
    });
    expect(look).toEqual({ ...PLAIN_LOOK, arrangement: "table", dense: true });
    expect(unread.sort()).toEqual(["the columns", "the filter", "the groups", "the order"]);
  });
});

describe("what differs", () => {
  const told = (change: Partial<Look>, kept: Look = PLAIN_LOOK) =>
    differences(kept, { ...kept, ...change }, names);
  test.each<[Partial<Look>, string[]]>([
    [{}, []],
    [{ filter: BUG }, ["only “type Bug”"]],
    [{ arrangement: "table", group: "priority" }, ["as a table", "in groups by priority"]],
    [{ board: "b1" }, ["on Pier"]],
    [{ board: "b9" }, ["on another board"]],
    [{ sort: [{ fact: "age", descending: true }] }, ["sorted by age, falling"]],
    [
      { dense: true, lanes: lanesByField("assigneeId") },
      ["in lanes by assignee", "in narrow rows"],
    ],
    [{ fields: PLAIN_LOOK.fields.slice(1) }, ["without state"]],
    [{ fields: PLAIN_LOOK.fields.toReversed() }, ["columns in another order"]],
    [
      { fields: PLAIN_LOOK.fields.with(0, { fact: "stateId", width: 300 }) },
      ["columns of other widths"],
    ],
    [{ sum: null }, ["adding nothing up"]],
    [
      { cards: { ...USUAL_CARDS, facts: ["age", "priority"], density: "small" } },
      [
        "cards with priority",
        ...["estimate", "assignee", "class of service", "origin", "times returned"].map(
          (gone) => `cards without ${gone}`,
        ),
        "cards without children",
        "cards without items it waits for",
        "cards without items that wait for it",
        "small cards",
      ],
    ],
    [{ cards: { ...USUAL_CARDS, stayFrom: 9 } }, ["cards that say it otherwise"]],
  ])("%j is said as %j", (change, words) => expect(told(change)).toEqual(words));
  test("what was let go is said too, and a condition of the project by its name", () => {
    const kept: Look = { ...PLAIN_LOOK, filter: { kind: "all", of: [BUG, OLD] } };
    const named = [{ id: "n", name: "too old", condition: OLD }];
    expect(differences(kept, { ...kept, filter: BUG }, { ...names, named })).toEqual([
      "without only “too old”",
    ]);
  });
  test("two looks are nearly alike that show the same items in at most one other way", () => {
    const table: Look = { ...PLAIN_LOOK, arrangement: "table", filter: BUG };
    expect(nearlyAlike(table, { ...table, dense: true }, names)).toEqual(["in narrow rows"]);
    expect(nearlyAlike(table, { ...table, group: "priority" }, names)).not.toBeNull();
    expect(nearlyAlike(table, { ...table, filter: OLD }, names)).toBeNull();
    expect(nearlyAlike(table, { ...table, group: "priority", board: "b1" }, names)).toBeNull();
  });
});

describe("a view that somebody else changes meanwhile", () => {
  const was = { ...PLAIN_LOOK, arrangement: "table" as const, group: "severity" as const };

  test("is followed in all that was left as it was", () => {
    const is = { ...was, group: "priority" as const, lanes: lanesByField("assigneeId") };
    expect(followedLook(was, is, was)).toEqual(is);
    const shown = { ...was, sort: [{ fact: "age" as const, descending: true }] };
    expect(followedLook(was, is, shown)).toEqual({ ...is, sort: shown.sort });
    expect(followedLook(was, is, { ...was, group: null })).toEqual({ ...is, group: null });
  });

  test("does not take anybody to another page", () => {
    const is = { ...was, arrangement: "board" as const, board: "b1", group: null };
    expect(followedLook(was, is, was)).toEqual({ ...was, group: null });
  });
});

describe("a stored look", () => {
  test("of an older or a broken kind keeps what can be read", () => {
    expect(storedLook(null)).toEqual(PLAIN_LOOK);
    expect(
      storedLook({ arrangement: "cloud", group: "priority", filter: { kind: "what" } }),
    ).toEqual({ ...PLAIN_LOOK, group: "priority" });
  });
  test("says which of its fields are gone", () => {
    const own = { ...VOCABULARY.own[0], id: "f-gone", name: "Mooring", removedAt: 5 };
    const vocabulary = { ...VOCABULARY, own: [own] };
    const look: Look = { ...PLAIN_LOOK, group: `own.${own.kind}.f-gone`, sum: "own.number.never" };
    expect(goneFields(look, vocabulary)).toEqual(["Mooring", "a field that is gone"]);
    expect(goneFields(PLAIN_LOOK, VOCABULARY)).toEqual([]);
    const present = { ...look, group: null, sum: "own.number.f-value" } as const;
    expect(goneFields(present, VOCABULARY)).toEqual([]);
  });
});

test.each<[string, unknown]>([
  [
    "forty columns",
    {
      fields: factsOffered(VOCABULARY)
        .concat(Array(20).fill("age"))
        .map((fact) => ({ fact, width: null })),
    },
  ],
  [
    "a column twice",
    {
      fields: [
        { fact: "age", width: null },
        { fact: "age", width: 90 },
      ],
    },
  ],
  ["the title as a column", { fields: [{ fact: "title", width: null }] }],
  ["a column of no width", { fields: [{ fact: "age", width: 3 }] }],
  ["groups of a text", { group: "title" }],
  ["forty groupings", { group: Array(40).fill("priority") }],
  ["seven sortings", { sort: Array(7).fill({ fact: "age", descending: true }) }],
  ["days added up", { sum: "age" }],
  ["another arrangement", { arrangement: "cloud" }],
  ["a condition of nothing", { filter: { kind: "compare", fact: "age", op: "is", value: "x" } }],
])("a look with %s is refused", (_, change) => {
  expect(lookSchema.safeParse(PLAIN_LOOK).success).toBe(true);
  expect(lookSchema.safeParse({ ...PLAIN_LOOK, ...(change as object) }).success).toBe(false);
});

test("of a view only what it has can be changed", () => {
  const change = (changes: unknown) =>
    viewBody.safeParse({
      kind: "change",
      id: "0190b0e0-0000-7000-8000-000000000001",
      version: 1,
      changes,
    }).success;
  expect(change({ name: "Mine", group: null })).toBe(true);
  expect(change({ ownerId: "noor" })).toBe(false);
  expect(change({ name: "  " })).toBe(false);
  expect(change({ name: "x".repeat(61) })).toBe(false);
});
