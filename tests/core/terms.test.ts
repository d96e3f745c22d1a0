import fc from "fast-check";
import type { Condition } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import { NOTHING_AROUND, type AskedItem } from "@/core/condition/facts";
import { partsSuggested, partsTaken } from "@/core/intake/part-suggestion";
import type { ItemEvent } from "@/core/item/event";
import { replay } from "@/core/item/snapshot";
import { historyAsCalledNow, termMeant, termsMeant } from "@/core/item/terms/current-name";
import { withFormerTerms, withTermOrNew, withTermRenamed } from "@/core/item/terms/rename-value";
import { PLAIN_TERM, TERM_KINDS, type Term } from "@/core/item/terms/term";
import { termsOffered, type UsedTerm } from "@/core/item/terms/view";
import { differencesOf } from "@/core/workflow/design-change";
import { anyCondition, VOCABULARY } from "./setup/conditions";
import { created, DAY, plainItem } from "./setup/make";
import { runs } from "./setup/runs";

const term = (name: string, more: Partial<Term> = {}): Term => ({
  ...PLAIN_TERM,
  kind: "label",
  name,
  ...more,
});

describe("what is meant by a name", () => {
  const terms = [
    term("mist", { earlier: ["fog", "haze"] }),
    term("Storm"),
    term("fog", { kind: "part" }),
  ];

  test.each([
    ["label", "mist", "mist"],
    ["label", "MIST", "mist"],
    ["label", "fog", "mist"],
    ["label", "Haze", "mist"],
    ["label", "storm", "Storm"],
    ["label", "night boat", "night boat"],
    ["part", "fog", "fog"],
    ["part", "mist", "mist"],
  ] as const)("of the %s “%s” is “%s”", (kind, said, meant) =>
    expect(termMeant(terms, kind, said)).toBe(meant),
  );

  test("exactly what is said comes before what was called so, and before other capitals", () => {
    const both = [term("ebb", { earlier: ["Tide"] }), term("tide"), term("TIDE")];
    expect(termMeant(both, "label", "tide")).toBe("tide");
    expect(termMeant(both, "label", "TIDE")).toBe("TIDE");
    expect(termMeant(both, "label", "Tide")).toBe("tide");
  });

  test("two names of one word are that word once", () =>
    expect(termsMeant(terms, "label", ["fog", "pier", "mist", "HAZE"])).toEqual(["mist", "pier"]));
});

describe("a history with words that are called otherwise now", () => {
  const event = (seq: number, more: object): ItemEvent =>
    ({
      itemId: "i",
      seq,
      at: seq * DAY,
      actorId: "noor",
      cause: "person",
      commandId: `c${seq}`,
      ...more,
    }) as ItemEvent;
  const history = [
    event(1, { kind: "created", new: { ...created, labels: ["fog"], parts: ["fog"] } }),
    event(2, { kind: "changed", field: "labels", old: ["fog"], new: ["fog", "haze", "pier"] }),
    event(3, { kind: "changed", field: "title", old: "fog", new: "haze" }),
  ];
  const terms = [term("mist", { earlier: ["fog", "haze"] })];

  test("comes to the item as it is called now, each word once, other fields as they were", () => {
    const now = replay(historyAsCalledNow(history, terms));
    expect(now).toMatchObject({ labels: ["mist", "pier"], parts: ["fog"], title: "haze" });
    expect(replay(history)).toMatchObject({ labels: ["fog", "haze", "pier"] });
  });

  test("holds what was undone by the name of now too", () => {
    const undone = event(4, {
      kind: "undone",
      old: { fromSeq: 2, toSeq: 3 },
      new: { labels: ["fog"] },
    });
    expect(replay(historyAsCalledNow([...history, undone], terms)).labels).toEqual(["mist"]);
  });

  test("in which nothing is called otherwise is the same history", () =>
    expect(historyAsCalledNow(history, [term("fog")])).toBe(history));
});

describe("conditions in which a word is called otherwise", () => {
  const asker: Asker = { personId: "noor", teamIds: [], now: 10 * DAY, zone: "Europe/London" };
  const says = (labels: string[], parts: string[] = labels): AskedItem => ({
    ...NOTHING_AROUND,
    item: { ...plainItem, labels, parts },
  });
  const anyNames = fc.subarray(["ticket", "Gate", "a"]);
  const called = (names: readonly string[]) =>
    names.map((name) => (name === "ticket" ? "quay ticket" : name));

  const ofTerms = fc
    .tuple(
      fc.constantFrom("labels" as const, "parts" as const),
      fc.constantFrom("contains" as const, "lacks" as const),
      fc.constantFrom("ticket", "Gate"),
    )
    .map(([fact, op, value]): Condition => ({ kind: "compare", fact, op, value }));
  const anyOfTerms = fc
    .tuple(
      fc.constantFrom("all" as const, "any" as const),
      fc.array(fc.oneof(ofTerms, anyCondition(VOCABULARY)), { minLength: 1, maxLength: 4 }),
    )
    .map(([kind, of]): Condition => ({ kind: "not", of: { kind, of } }));

  test("hold for an item that is called otherwise as they held before", () => {
    let named = 0;
    fc.assert(
      fc.property(
        anyOfTerms,
        fc.constantFrom(...TERM_KINDS),
        anyNames,
        anyNames,
        (condition, kind, labels, parts) => {
          const renaming = { kind, from: "ticket", to: "quay ticket" };
          const before = holds(condition, says(labels, parts), asker);
          const after = withTermRenamed(condition, renaming);
          if (after !== condition) named++;
          const item = kind === "label" ? says(called(labels), parts) : says(labels, called(parts));
          expect(holds(after, item, asker)).toBe(before);
        },
      ),
      { numRuns: runs(400) },
    );
    expect(named).toBeGreaterThan(20);
  });

  const contains: Condition = { kind: "compare", fact: "labels", op: "contains", value: "fog" };
  const lacks: Condition = { kind: "compare", fact: "labels", op: "lacks", value: "fog" };
  const renaming = { kind: "label", from: "fog", to: "mist" } as const;

  test.each([
    [["fog"], true],
    [["mist"], true],
    [["pier"], false],
    [[], false],
  ])("about other projects too hold where %j is said: %s", (labels, held) => {
    expect(holds(withTermOrNew(contains, renaming), says(labels), asker)).toBe(held);
    expect(holds(withTermOrNew(lacks, renaming), says(labels), asker)).toBe(!held);
  });

  test("that were written before words were renamed ask for those of now as well", () => {
    const terms = [term("haar", { earlier: ["fog", "mist"] }), term("pier")];
    const asked: Condition = { kind: "not", of: contains };
    const meant = withFormerTerms(asked, terms);
    expect(holds(meant, says(["haar"]), asker)).toBe(false);
    expect(holds(meant, says(["fog"]), asker)).toBe(false);
    expect(holds(meant, says(["pier"]), asker)).toBe(true);
    expect(withFormerTerms(asked, [term("fog")])).toBe(asked);
  });

  test("are found at any depth of what is stored, and nothing else is touched", () => {
    const stored = {
      rules: [{ name: "fog", when: { kind: "not", of: contains } }],
      other: { kind: "compare", fact: "parts", op: "contains", value: "fog" },
    };
    const after = withTermRenamed(stored, renaming);
    expect(after.rules[0]).toEqual({
      name: "fog",
      when: { kind: "not", of: { ...contains, value: "mist" } },
    });
    expect(after.other).toBe(stored.other);
    expect(withTermRenamed(stored, { ...renaming, from: "ebb" })).toBe(stored);
  });
});

test("what is typed finds words that begin with it first, then those said most, never what has ended", () => {
  const used = (name: string, items: number, more: Partial<UsedTerm> = {}): UsedTerm => ({
    ...term(name),
    described: true,
    items,
    open: 0,
    followed: false,
    followers: 0,
    ...more,
  });
  const terms = [
    used("night boat", 3),
    used("boat", 1),
    used("boathouse", 9),
    used("ferry", 5, { earlier: ["old boat"] }),
    used("rowing boat", 7, { endedAt: 1 }),
    used("boat deck", 2, { kind: "part" }),
  ];
  const offered = (typed: string, chosen: string[] = []) =>
    termsOffered(terms, { kind: "label", typed, chosen }).map(({ name }) => name);
  expect(offered("Boat")).toEqual(["boathouse", "boat", "ferry", "night boat"]);
  expect(offered(" boat", ["boathouse"])).toEqual(["boat", "ferry", "night boat"]);
  expect(offered("")).toEqual(["boathouse", "ferry", "night boat", "boat"]);
});

describe("the parts that a report seems to be about", () => {
  const part = (name: string, meaning: string, more: Partial<Term> = {}) =>
    term(name, { kind: "part", meaning, ...more });
  const parts = [
    part("Refunds", "Money that goes back to a card after a cancelled sailing."),
    part("Scanners", "What reads the codes on the quays, glass and heating.", {
      places: ["Gannet quay"],
    }),
    part("Old gate", "Glass and heating of the first gates.", { endedAt: 1 }),
    term("storm", { meaning: "money card refund" }),
  ];
  const about = (title: string, place = "", happened = "") =>
    partsSuggested({ title, happened, place }, parts);

  test("are surely those that its place belongs to, however it is written", () =>
    expect(about("Nothing works", " gannet QUAY ")).toEqual([
      { name: "Scanners", why: "the place is Gannet quay", sure: true },
    ]));

  test("are those that its words name, whatever their form", () =>
    expect(about("My refund never came")).toEqual([
      { name: "Refunds", why: "it says “Refunds”", sure: false },
    ]));

  test("are those of whose description it says several words; one is chance", () => {
    expect(about("The glass is wet", "", "No heating either")).toEqual([
      expect.objectContaining({ name: "Scanners", sure: false }),
    ]);
    expect(about("The glass is wet")).toEqual([]);
  });

  test("are taken for it by its place, until somebody says which they are, be it none", () => {
    const taken = (said: string[] | null, place: string) =>
      partsTaken({ parts: said, place }, parts);
    expect(taken(null, "Gannet Quay ")).toEqual(["Scanners"]);
    expect(taken(null, "Heron island")).toEqual([]);
    expect(taken(["Refunds"], "Gannet quay")).toEqual(["Refunds"]);
    expect(taken([], "Gannet quay")).toEqual([]);
  });

  test("come with the surest first", () =>
    expect(about("Refund for a wet ticket", "Gannet quay").map(({ name }) => name)).toEqual([
      "Scanners",
      "Refunds",
    ]));
});

test("what is different of two states is told by name, and what is the same is not", () => {
  const words = { name: "name", firm: "firm", places: "places" };
  const before = { name: "Tides", firm: true, places: ["a", "b"], id: 1 };
  expect(differencesOf(before, { ...before, firm: false, places: [], id: 2 }, words)).toEqual([
    { what: "firm", old: "yes", new: "no" },
    { what: "places", old: "a, b", new: null },
  ]);
  expect(differencesOf(before, { ...before }, words)).toEqual([]);
  expect(differencesOf(null, before, { name: "name" })).toEqual([
    { what: "name", old: null, new: "Tides" },
  ]);
});
