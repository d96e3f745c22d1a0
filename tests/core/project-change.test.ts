import {
  fieldsLost,
  likeliestState,
  likeliestType,
  ownElsewhere,
} from "@/core/item/project-change";
import { keepsStanding } from "@/core/item/keeps-standing";
import { PLAIN_FIELD, type OwnField } from "@/core/item/own-field";
import { FIRST_TYPES, type ItemType } from "@/core/item/item-type";
import { STATE_KINDS } from "@/core/workflow/state";
import { Subject } from "./setup/make";

const type = (change: Partial<ItemType>): ItemType => ({
  ...FIRST_TYPES.story,
  workflowId: "main",
  removedAt: null,
  ...change,
});
const field = (change: Partial<OwnField> & Pick<OwnField, "id" | "name">): OwnField => ({
  ...PLAIN_FIELD,
  kind: "text",
  position: 0,
  ...change,
});
const choices = (...names: string[]) => names.map((name) => ({ id: name[0], name, offered: true }));

describe("the type an item becomes in another project", () => {
  const offered = [
    type({ id: "a", name: "Piece", position: 1 }),
    type({ id: "b", name: "Fault", position: 0 }),
    type({ id: "c", name: "Bug", position: 5, removedAt: 9 }),
    type({ id: "d", name: "Journey", level: 2 }),
  ];
  test.each([
    ["of the same name, whatever capitals", { name: "piece", level: 1 }, "a"],
    ["else the first of its level", { name: "Bug", level: 1 }, "b"],
    ["of a larger level by that level", { name: "Voyage", level: 2 }, "d"],
    ["none where the level is missing", { name: "Task", level: 0 }, undefined],
  ])("%s", (_, of, id) => expect(likeliestType(of, offered)?.id).toBe(id));
});

describe("the state it stands in there", () => {
  const states = [
    { name: "Wished", kind: "unstarted" },
    { name: "At work", kind: "working" },
    { name: "Queue", kind: "waiting" },
    { name: "Over", kind: "finished" },
  ] as const;
  test.each([
    [{ name: "QUEUE", kind: "working" }, "Queue"],
    [{ name: "Building", kind: "waiting" }, "Queue"],
    [{ name: "Building", kind: "working" }, "At work"],
    [{ name: "At work", kind: "finished" }, "Over"],
    [{ name: "Over", kind: "unstarted" }, "Wished"],
  ] as const)("%j becomes %s", (was, name) => expect(likeliestState(was, states)?.name).toBe(name));

  test("begins and ends nothing, whatever is there", () => {
    for (const kind of STATE_KINDS)
      for (const some of [states.slice(0, 1), states.slice(1, 3), states.slice(3)]) {
        const found = likeliestState({ name: "x", kind }, some);
        expect(found === null).toBe(!some.some((one) => keepsStanding(kind, one.kind)));
        if (found) expect(keepsStanding(kind, found.kind)).toBe(true);
      }
  });
});

describe("what its own fields say there", () => {
  const told = (value: OwnField["initial"], from: OwnField, to: OwnField[], members = ["noor"]) =>
    ownElsewhere(
      { [from.id]: value! },
      [from],
      { ownFields: to, members: new Set(members) },
      "story",
    );
  test("is told by a field of the same name and kind", () => {
    const from = field({ id: "1", name: "Pier" });
    expect(told("north", from, [field({ id: "2", name: "pier" })])).toEqual({
      own: { "2": "north" },
      lost: [],
    });
  });
  test.each([
    ["of another kind", { kind: "number" }],
    ["that was taken out", { removedAt: 4 }],
    ["of other types", { typeIds: ["bug"] }],
  ] as const)("is lost, and said, where the field is one %s", (_, change) => {
    const to = field({ id: "2", name: "Pier", ...change } as OwnField);
    expect(told("north", field({ id: "1", name: "Pier" }), [to])).toEqual({
      own: {},
      lost: ["Pier"],
    });
  });
  test("names a choice, not its id", () => {
    const from = field({
      id: "1",
      name: "Side",
      kind: "one of",
      options: choices("North", "South"),
    });
    const to = field({
      id: "2",
      name: "Side",
      kind: "one of",
      options: choices("xsouth", "south"),
    });
    expect(told("S", from, [to]).own).toEqual({ "2": "s" });
    expect(told("N", from, [to]).lost).toEqual(["Side"]);
  });
  test("of several choices all or none", () => {
    const from = field({ id: "1", name: "Sides", kind: "many of", options: choices("N", "S") });
    const to = field({ id: "2", name: "Sides", kind: "many of", options: choices("s", "n", "w") });
    const less = field({ id: "2", name: "Sides", kind: "many of", options: choices("s") });
    expect(told(["S", "N"], from, [to]).own).toEqual({ "2": ["s", "n"] });
    expect(told(["S", "N"], from, [less])).toEqual({ own: {}, lost: ["Sides"] });
  });
  test("names a person only where they belong", () => {
    const [from, to] = ["1", "2"].map((id) => field({ id, name: "Pilot", kind: "person" }));
    expect(told("noor", from, [to]).own).toEqual({ "2": "noor" });
    expect(told("ivo", from, [to]).lost).toEqual(["Pilot"]);
  });
});

test("who does not belong there and what does not reach there is left", () => {
  const nobody = new Subject().move("Ready").item!;
  const named = { assigneeId: "noor", reviewerId: "ivo", sprintId: "s", releaseId: "r" };
  const offer = { members: new Set(["ivo"]), timeboxes: new Set(["r"]) };
  expect(fieldsLost({ ...nobody, ...named }, offer)).toEqual({ assigneeId: null, sprintId: null });
  expect(fieldsLost(nobody, { members: new Set(), timeboxes: new Set() })).toEqual({});
});
