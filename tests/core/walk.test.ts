import fc from "fast-check";
import { cardOf, type Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import { STATE_KINDS } from "@/core/workflow/state";
import { afterItem, beforeItem, passedBy, walkSections, type Walked } from "@/core/walk/sections";
import { WALK_ORDERS } from "@/core/walk/walk";
import { plainItem } from "./setup/make";

const column = (id: string, position: number, part: Column["part"] = "working"): Column => ({
  id,
  stage: id,
  name: "",
  part,
  position,
  stateIds: [id],
});
const COLUMNS = [column("build", 0), column("test", 1), column("live", 2, "finished")];

const card = (id: string, change: Partial<Card> = {}): Card => ({
  ...cardOf({ ...plainItem, number: 1 }, "TIX"),
  id,
  key: `TIX-${id}`,
  stateId: "build",
  stateKind: "working",
  ...change,
});
const blocker = { id: "b", cause: "fog", waitingFor: null, since: 0 };

const walked = (cards: readonly Card[], change: Partial<Walked> = {}): Walked => ({
  cards,
  columns: COLUMNS,
  nameOf: (id) => id.toUpperCase(),
  parentName: (id) => (id === "gone" ? null : `${id} Above`),
  ageOf: ({ enteredStateAt }) => -enteredStateAt,
  left: [],
  ...change,
});
const told = (sections: ReturnType<typeof walkSections>) =>
  sections.map(({ name, items }) => [name, items.map(({ id }) => id)]);

describe("what a walk goes through", () => {
  const cards = [
    card("1", { enteredStateAt: 9 }),
    card("2", { stateId: "test", enteredStateAt: 5, assigneeId: "noor", parentId: "V" }),
    card("3", { enteredStateAt: 1, assigneeId: "ivo", parentId: "gone" }),
    card("4", { enteredStateAt: 8, openBlockers: [blocker], assigneeId: "noor", parentId: "V" }),
    card("5", { stateId: "live", stateKind: "finished" }),
  ];

  it("begins with the state nearest the end; in each the blocked, then the oldest", () => {
    expect(told(walkSections("from the end", walked(cards)))).toEqual([
      ["test", ["2"]],
      ["build", ["4", "3", "1"]],
    ]);
  });

  it("goes by people, or by what items stand under", () => {
    expect(told(walkSections("by person", walked(cards)))).toEqual([
      ["IVO", ["3"]],
      ["NOOR", ["4", "2"]],
      ["Nobody yet", ["1"]],
    ]);
    expect(told(walkSections("by story", walked(cards)))).toEqual([
      ["V Above", ["4", "2"]],
      ["Under nothing", ["3", "1"]],
    ]);
  });

  it("takes up first what was left for later, once", () => {
    expect(told(walkSections("from the end", walked(cards, { left: ["1", "5", "gone"] })))).toEqual(
      [
        ["Left for this time", ["1"]],
        ["test", ["2"]],
        ["build", ["4", "3"]],
      ],
    );
  });

  it("goes on and back one by one, and passes by what nothing is wrong with", () => {
    const sections = walkSections("from the end", walked(cards));
    expect(afterItem(sections, null)?.id).toBe("2");
    expect(afterItem(sections, "2")?.id).toBe("4");
    expect(afterItem(sections, "1")).toBeNull();
    expect(beforeItem(sections, "4")?.id).toBe("2");
    expect(beforeItem(sections, "2")).toBeNull();
    const old = ({ id }: Card) => id === "1";
    const ids = (of: ReturnType<typeof passedBy>) => [of.passed.map(({ id }) => id), of.next?.id];
    expect(ids(passedBy(sections, "2", old))).toEqual([["4", "3"], "1"]);
    expect(ids(passedBy(sections, null, old))).toEqual([["2", "4", "3"], "1"]);
    expect(ids(passedBy(sections, "1", old))).toEqual([[], undefined]);
  });

  it("meets everything that is in progress on the board exactly once, in every order", () => {
    const any = fc.record({
      stateId: fc.constantFrom("build", "test"),
      stateKind: fc.constantFrom(...STATE_KINDS),
      assigneeId: fc.constantFrom(null, "noor", "ivo"),
      parentId: fc.constantFrom(null, "V", "W", "gone"),
      withdrawn: fc.boolean(),
      enteredStateAt: fc.nat(20),
      openBlockers: fc.boolean().map((blocked) => (blocked ? [blocker] : [])),
    });
    fc.assert(
      fc.property(
        fc.array(any, { maxLength: 25 }),
        fc.constantFrom(...WALK_ORDERS),
        fc.array(fc.nat(25).map(String)),
        (changes, order, left) => {
          const its = changes.map((change, i) => card(String(i), change));
          const met = walkSections(order, walked(its, { left })).flatMap(({ items }) => items);
          const meant = its.filter(
            ({ stateKind, withdrawn }) =>
              !withdrawn && (stateKind === "waiting" || stateKind === "working"),
          );
          expect(met.map(({ id }) => id).sort()).toEqual(meant.map(({ id }) => id).sort());
        },
      ),
    );
  });
});
