import fc from "fast-check";
import { cellsOf, inCell } from "@/core/board/cells";
import { drawnOf, idsUnder, underParents, usualChildren } from "@/core/board/children";
import { lanes } from "@/core/board/lane";
import { cutBy } from "./setup/lanes";
import { bothTallies, tallyOf, tallyOfGroups } from "@/core/board/tally";
import { amountOf, isAmount } from "@/core/item/amount";
import { OWN_FIELDS } from "./setup/conditions";

const item = (id: string, parentId: string | null = null) => ({ id, parentId });
const ids = (items: readonly { id: string }[]) => items.map(({ id }) => id).join(" ");

describe("items that stand under others", () => {
  const story = item("story", "voyage");
  const all = [item("task1", "story"), item("bug"), story, item("task2", "story")];

  it("stand directly below their parent where that is there, in the order they had", () => {
    expect(ids(underParents(all))).toBe("bug story task1 task2");
    expect(ids(underParents([item("deep", "task1"), ...all]))).toBe("bug story task1 deep task2");
    expect(idsUnder(all)).toEqual(["task1", "task2"]);
  });

  it("are left out where they are but a count, unless their parent is not there", () => {
    expect(ids(drawnOf(all, "as a count"))).toBe("bug story");
    expect(ids(drawnOf([all[0]], "as a count"))).toBe("task1");
    expect(drawnOf(all, "as cards")).toEqual(all);
  });

  it("stand under their parent on boards of sprints unless a view says otherwise", () => {
    expect(usualChildren("sprint")).toBe("under their parent");
    expect(usualChildren("state")).toBe("as cards");
  });

  it("are never lost, also where they stand under each other in a circle", () => {
    const names = ["a", "b", "c", "d", "e"];
    const anyItems = fc
      .tuple(...names.map(() => fc.option(fc.constantFrom(...names, "elsewhere"))))
      .map((parents) => names.map((id, i) => item(id, parents[i])));
    fc.assert(
      fc.property(anyItems, (items) => {
        const placed = underParents(items);
        expect(ids(placed).split(" ").sort()).toEqual(names);
      }),
    );
  });
});

describe("what stands in a cell of a board", () => {
  const card = (id: string, columnId: string, assigneeId: string | null) => ({
    ...item(id),
    columnId,
    assigneeId,
    classOfService: "standard" as const,
  });
  const cards = [card("a", "build", "noor"), card("b", "test", "noor"), card("c", "build", null)];
  const columns = [{ id: "build" }, { id: "test" }] as never as Parameters<typeof inCell>[2][];
  const cut = cutBy("assigneeId");
  const made = lanes(cards, cut);
  const cells = cellsOf(
    made,
    ({ columnId }) => columns.find(({ id }) => id === columnId) as never,
    (some) => [...some].reverse(),
  );

  it("is what is in both its lane and its column, in the order that was asked for", () => {
    const [noor, nobody] = made;
    expect(ids(inCell(cells, noor, columns[0]))).toBe("a");
    expect(ids(inCell(cells, noor, columns[1]))).toBe("b");
    expect(ids(inCell(cells, nobody, columns[0]))).toBe("c");
    expect(inCell(cells, nobody, columns[1])).toEqual([]);
  });

  it("lanes are there for what is counted and has no card", () => {
    const counted = [{ classOfService: "expedite" as const, assigneeId: null }];
    expect(lanes([], cut, counted).map(({ id, items }) => [id, items])).toEqual([["expedite", []]]);
  });
});

describe("what is added up beside a count", () => {
  const of = (own: Record<string, number>, estimate: number | null = null) => ({
    estimate,
    firstEstimate: 6,
    spentMinutes: 90,
    remainingHours: 4,
    returns: 3,
    own,
  });

  it("is a size, hours, or a number of the project's own; never how long or how often", () => {
    expect(
      ["estimate", "remainingHours", "own.number.points"].every((f) => isAmount(f as never)),
    ).toBe(true);
    expect(["age", "returns", "children", "own.text.note"].some((f) => isAmount(f as never))).toBe(
      false,
    );
  });

  it("is what an item says of it, and nothing where it says nothing", () => {
    expect(amountOf("estimate", of({}, 5), [])).toBe(5);
    expect(amountOf("remainingHours", of({}), [])).toBe(4);
    expect(amountOf("firstEstimate", of({}), [])).toBe(6);
    expect(amountOf("spentHours", of({}), [])).toBe(1.5);
    expect(amountOf("own.number.f-value", of({ "f-value": 7 }), OWN_FIELDS)).toBe(7);
    expect(amountOf("own.number.f-value", of({}), OWN_FIELDS)).toBeNull();
    const both = of({ "f-value": 5_000, "f-weeks": 8 });
    expect(amountOf("own.computed.f-cost", both, OWN_FIELDS)).toBe(40_000);
    expect(amountOf("returns", of({}), [])).toBeNull();
    expect(amountOf(null, of({}, 5), [])).toBeNull();
    expect(amountOf("own.computed.gone", both, OWN_FIELDS)).toBeNull();
  });

  it("is summed over cards and over groups of what has finished", () => {
    const group = (stateId: string, items: number, amount: number) => ({
      stateId,
      items,
      amount,
      classOfService: "standard" as const,
      assigneeId: null,
      finished: items,
      tookDays: [],
    });
    const groups = [group("live", 3, 8), group("declined", 2, 5)];
    const open = tallyOf([of({}, 5), of({})], ({ estimate }) => estimate);
    expect(open).toEqual({ items: 2, amount: 5 });
    expect(bothTallies(open, tallyOfGroups(groups, ["live"]))).toEqual({ items: 5, amount: 13 });
  });
});
