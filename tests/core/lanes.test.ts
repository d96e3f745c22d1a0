import fc from "fast-check";
import { cardOf, type Card } from "@/core/board/card";
import { cardSays, groupsSay, laneIdOf, lanes, type LaneItem } from "@/core/board/lane";
import { laneDrop } from "@/core/board/lane-drop";
import {
  lanesByField,
  lanesSchema,
  lanesWords,
  NO_LANES,
  type LaneCondition,
  type Lanes,
} from "@/core/board/lanes-by";
import type { Condition } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import { NOTHING_AROUND, type FactName } from "@/core/condition/facts";
import { factsOffered } from "@/core/condition/vocabulary";
import type { ItemSnapshot } from "@/core/item/fields";
import { isCounted } from "@/core/item/list/listed";
import { VOCABULARY } from "./setup/conditions";
import { anyTravelling, cutBy, cutOf } from "./setup/lanes";
import { plainItem } from "./setup/make";

const ASKER: Asker = {
  personId: "noor",
  teamIds: ["quayside"],
  now: Date.UTC(2026, 10, 27, 9),
  zone: "Europe/London",
  sprints: { current: "sp1", next: null, previous: null },
};
const card = (change: Partial<ItemSnapshot> = {}): Card =>
  cardOf({ ...plainItem, ...change }, "TIX");
const is = (fact: FactName, value: string): Condition => ({
  kind: "compare",
  fact,
  op: "is",
  value,
});
const shape = (items: readonly LaneItem[], cut: Parameters<typeof lanes>[1]) =>
  lanes(items, cut).map((lane) => [lane.name, lane.items.map((item) => item.id)]);
const byConditions = (...of: LaneCondition[]): Lanes => ({
  ...NO_LANES,
  by: { kind: "conditions", of },
});

describe("lanes", () => {
  const items = [
    card({ id: "a", assigneeId: "noor" }),
    card({ id: "b", assigneeId: "noor", classOfService: "expedite" }),
    card({ id: "c", classOfService: "fixed date" }),
    card({ id: "d", assigneeId: "left the crew", labels: ["fog", "quay"] }),
  ];

  it("begin with what is expedited, whatever they are made by", () => {
    expect(shape(items, cutBy(null))).toEqual([
      ["Expedite", ["b"]],
      ["Everything else", ["a", "c", "d"]],
    ]);
    expect(shape(items, cutBy("classOfService"))).toEqual([
      ["Expedite", ["b"]],
      ["Fixed date", ["c"]],
      ["Standard", ["a", "d"]],
    ]);
    expect(shape([], cutBy("assigneeId"))).toEqual([]);
  });

  it("by people stand as they are offered, who left and nobody behind them", () => {
    expect(shape(items, cutBy("assigneeId"))).toEqual([
      ["Expedite", ["b"]],
      ["Noor Bakri", ["a"]],
      ["A former assignee", ["d"]],
      ["Nobody yet", ["c"]],
    ]);
  });

  it("limited to a team give everybody else the rest, below or above", () => {
    const others = { members: new Set(["noor"]) };
    const limited = { ...lanesByField("assigneeId"), teamId: "ticketing" };
    expect(shape(items, cutOf(limited, others)).map(([name]) => name)).toEqual([
      "Expedite",
      "Noor Bakri",
      "Nobody yet",
      "Everything else",
    ]);
    const above = { ...limited, rest: "above" as const };
    expect(shape(items, cutOf(above, others))[1]).toEqual(["Everything else", ["d"]]);
    expect(lanesWords(limited, VOCABULARY)).toBe("assignee of Ticketing");
  });

  it("at will are there for what nothing has", () => {
    const empty = { ...lanesByField("assigneeId"), empty: true };
    expect(shape([], cutOf(empty)).map(([name]) => name)).toEqual([
      "Noor Bakri",
      "Ivo Sandell",
      "Nobody yet",
    ]);
    const conditions = byConditions({ name: "Fog", condition: is("teamId", "quayside") });
    expect(shape([], cutOf({ ...conditions, empty: true }))).toEqual([["Fog", []]]);
    expect(shape([], cutOf(conditions))).toEqual([]);
  });

  it("by labels go by the first one; by a parent are called what that is called", () => {
    expect(shape(items, cutBy("labels")).slice(1)).toEqual([
      ["Fog", ["d"]],
      ["No labels", ["a", "c"]],
    ]);
    const under = [
      card({ id: "x", parentId: "p2" }),
      card({ id: "y" }),
      card({ id: "z", parentId: "p1" }),
    ];
    const told = { keys: {}, names: { p1: "TIX-1 Alpha", p2: "TIX-2 Beta" } };
    expect(shape(under, cutOf({ ...NO_LANES, by: { kind: "parent" } }, { told }))).toEqual([
      ["TIX-1 Alpha", ["z"]],
      ["TIX-2 Beta", ["x"]],
      ["Under nothing", ["y"]],
    ]);
  });

  it("by conditions are as the server says; what it did not say is in the rest", () => {
    const cut = cutOf(
      byConditions(
        { name: "Late", condition: is("priority", "urgent") },
        { name: "Fog", condition: is("teamId", "quayside") },
      ),
      { told: { keys: { a: "1", d: "0" }, names: {} } },
    );
    expect(shape(items, cut)).toEqual([
      ["Expedite", ["b"]],
      ["Late", ["d"]],
      ["Fog", ["a"]],
      ["Everything else", ["c"]],
    ]);
  });

  it("hold every item once, in a lane whose meaning is true of it", () => {
    fc.assert(
      fc.property(
        fc.array(anyTravelling, { maxLength: 12 }),
        fc.constantFrom(...factsOffered(VOCABULARY).filter((f) => isCounted(f) && cardSays(f))),
        fc.boolean(),
        (some, fact, empty) => {
          const snapshots = some.map((item, i) => ({ ...item, id: String(i) }));
          const made = lanes(snapshots, cutOf({ ...lanesByField(fact), empty }));
          const held = made.flatMap((lane) => lane.items.map((item) => item.id)).sort();
          expect(held).toEqual(snapshots.map((item) => item.id).sort());
          for (const { meaning, items: inside } of made)
            for (const item of inside)
              expect(holds(meaning!, { ...NOTHING_AROUND, item }, ASKER)).toBe(true);
        },
      ),
    );
  });

  it("are told apart by what is counted of finished items, or not", () => {
    expect([NO_LANES, lanesByField("assigneeId"), lanesByField("priority")].map(groupsSay)).toEqual(
      [true, true, false],
    );
  });
});

describe("a card that is put into a lane", () => {
  const dropOn = (name: string, cut: Parameters<typeof lanes>[1], of: Card) => {
    const lane = lanes([], { ...cut, lanes: { ...cut.lanes, empty: true } }).find(
      (l) => l.name === name,
    )!;
    return laneDrop(lane, of, { asker: ASKER, cut });
  };

  it("takes the value of the lane; out of expedite it is standard", () => {
    expect(dropOn("Ivo Sandell", cutBy("assigneeId"), card())).toEqual({
      kind: "edit",
      fields: { assigneeId: "ivo" },
      own: {},
    });
    expect(dropOn("Nobody yet", cutBy("assigneeId"), card({ classOfService: "expedite" }))).toEqual(
      {
        kind: "edit",
        fields: { assigneeId: null, classOfService: "standard" },
        own: {},
      },
    );
    expect(
      dropOn("Intangible", cutBy("classOfService"), card({ classOfService: "expedite" })),
    ).toMatchObject({ fields: { classOfService: "intangible" } });
  });

  it("leaves the label whose lane it was in, and only adds one that a condition asks for", () => {
    const cut = cutBy("labels");
    const [lane] = lanes([card({ labels: ["rope"] })], cut);
    const labelled = card({ labels: ["fog", "quay"] });
    expect(laneDrop(lane, labelled, { asker: ASKER, cut })).toMatchObject({
      fields: { labels: ["rope", "quay"] },
    });
    const rope: Condition = { kind: "compare", fact: "labels", op: "contains", value: "rope" };
    const both = byConditions({
      name: "Mine on the rope",
      condition: {
        kind: "all",
        of: [rope, { kind: "compare", fact: "assigneeId", op: "is", value: { who: "me" } }],
      },
    });
    expect(dropOn("Mine on the rope", cutOf(both), labelled)).toMatchObject({
      fields: { labels: ["rope", "fog", "quay"], assigneeId: "noor" },
    });
  });

  it("does not go where no change brings it, and is told why", () => {
    const sentence = (lane: Lanes, name: string, of = card()) => {
      const drop = dropOn(name, cutOf(lane), of);
      return drop.kind === "no" ? drop.sentence : null;
    };
    const old: Condition = { kind: "compare", fact: "age", op: "more than", value: 5 };
    expect(sentence(byConditions({ name: "Old", condition: old }), "Old")).toMatch(
      /no single change/,
    );
    const either: Condition = {
      kind: "any",
      of: [is("teamId", "quayside"), is("priority", "low")],
    };
    expect(sentence(byConditions({ name: "Either", condition: either }), "Either")).toMatch(
      /no single change/,
    );
    const first = { name: "Urgent", condition: is("priority", "urgent") };
    const then = { name: "Quayside", condition: is("teamId", "quayside") };
    const urgent = card({ priority: "urgent" });
    expect(sentence(byConditions(first, then), "Quayside", urgent)).toBe(
      "It would still be in “Urgent”, which is asked first.",
    );
    expect(sentence(byConditions(first, then), "Quayside")).toBeNull();
    const [, rest] = lanes([card({ assigneeId: "noor" }), card({ assigneeId: "ivo" })], {
      ...cutBy("assigneeId"),
      members: new Set(["noor"]),
    });
    expect(laneDrop(rest, card(), { asker: ASKER, cut: cutBy("assigneeId") })).toMatchObject({
      kind: "no",
    });
  });

  it("stands in that lane then", () => {
    fc.assert(
      fc.property(
        fc.array(anyTravelling, { minLength: 2, maxLength: 8 }),
        fc.constantFrom(...factsOffered(VOCABULARY).filter((f) => isCounted(f) && cardSays(f))),
        (some, fact) => {
          const cut = cutBy(fact);
          const [moved, ...others] = some.map((item) =>
            cardOf({ ...item, withdrawnAt: null }, "TIX"),
          );
          for (const lane of lanes(others, cut)) {
            const drop = laneDrop(lane, moved, { asker: ASKER, cut });
            if (drop.kind !== "edit") continue;
            const after = { ...moved, ...drop.fields, own: { ...moved.own, ...drop.own } };
            expect(laneIdOf(cut)(after)).toBe(lane.id);
          }
        },
      ),
    );
  });
});

test("lanes are read as they were said before, and what makes no sense is not", () => {
  expect(lanesSchema.parse("assignee")).toEqual(lanesByField("assigneeId"));
  expect(lanesSchema.parse("none")).toEqual(NO_LANES);
  const reads = (lanes: unknown) => lanesSchema.safeParse(lanes).success;
  expect(reads({ by: { kind: "field", fact: "title" } })).toBe(false);
  expect(reads({ by: { kind: "conditions", of: [] } })).toBe(false);
  expect(reads("zeppelins")).toBe(false);
  expect(reads({ by: { kind: "parent" } })).toBe(true);
});
