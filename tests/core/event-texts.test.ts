import { EMPTIED, rewriteTexts, withoutText } from "@/core/item/event-texts";
import type { ItemChange, ItemEvent } from "@/core/item/event";
import { replay } from "@/core/item/snapshot";
import { NEW_ITEM } from "@/core/item/new-item";

const event = (change: ItemChange, seq = 1): ItemEvent => ({
  ...change,
  itemId: "i",
  seq,
  at: seq,
  actorId: "noor",
  cause: "person",
  commandId: `c${seq}`,
});
const created = (fields: object = {}): ItemChange => ({
  kind: "created",
  new: {
    ...NEW_ITEM,
    typeId: "bug",
    title: "Gate sticks",
    projectId: "tix",
    number: 1,
    parentId: null,
    own: {},
    stateId: "todo",
    stateKind: "unstarted",
    rank: "a0",
    ...fields,
  },
});

/** Texts that an event is found to hold, in the order of its fields. */
function textsOf(change: ItemChange): string[] {
  const found: string[] = [];
  rewriteTexts(event(change), (text) => {
    found.push(text);
    return "";
  });
  return found;
}

test.each<[string, ItemChange, string[]]>([
  [
    "a new item",
    created({ howToTest: "Push it", place: "Pier", own: { a: "Wide", b: 4, c: ["x"], d: true } }),
    ["Gate sticks", "Push it", "Pier", "Wide"],
  ],
  ["a rewritten text", { kind: "changed", field: "title", old: "A", new: "B" }, ["A", "B"]],
  ["a text that was none", { kind: "changed", field: "place", old: null, new: "Pier" }, ["Pier"]],
  ["another field", { kind: "changed", field: "assigneeId", old: null, new: "noor" }, []],
  ["a number of the project's own", { kind: "own changed", field: "f", old: 1, new: 2 }, []],
  ["a link of the project's own", { kind: "own changed", field: "f", old: "u", new: null }, ["u"]],
  ["a comment", { kind: "commented", new: { commentId: "c", body: "Mind" } }, ["Mind"]],
  [
    "a blocker",
    { kind: "blocked", new: { blockId: "b", cause: "No key", waitingFor: "Ines" } },
    ["No key", "Ines"],
  ],
  [
    "time that was changed",
    {
      kind: "time recorded",
      old: { entryId: "e", personId: "noor", on: "2026-11-12", minutes: 90, note: "Rope" },
      new: { entryId: "e", personId: "noor", on: "2026-11-12", minutes: 60, note: "Knots" },
    },
    ["Rope", "Knots"],
  ],
  ["one lifted", { kind: "lifted", old: { blockId: "b", cause: "No key" } }, ["No key"]],
  ["one taken back", { kind: "withdrawn", note: "Twice" }, ["Twice"]],
  [
    "a move without words",
    {
      kind: "moved",
      old: { stateId: "a", kind: "working" },
      new: { stateId: "b", kind: "working", isReturn: false, rank: null },
      note: null,
    },
    [],
  ],
  [
    "an undone step",
    {
      kind: "undone",
      old: { commandId: "c", fromSeq: 1, toSeq: 1 },
      new: {
        title: "Was",
        openBlockers: [{ id: "b", cause: "No key", waitingFor: null, since: 1 }],
      },
    },
    ["Was", "No key"],
  ],
])("%s: its free texts are found", (_what, change, expected) => {
  expect(textsOf(change)).toEqual(expected);
});

test("what was rewritten and rewritten back is what it was", () => {
  const before = event(created({ own: { a: "Wide", n: 2 }, description: "" }));
  const ids: string[] = [];
  const packed = rewriteTexts(before, (text) => String(ids.push(text) - 1));
  expect(JSON.stringify(packed)).not.toContain("Gate");
  expect(rewriteTexts(packed, (id) => ids[Number(id)])).toEqual(before);
});

test("emptied texts are gone wherever they stand, and replaying says the same", () => {
  const history = [
    event(created({ description: "pass: hunter", own: { f: "pass: hunter", g: "kept" } })),
    event({ kind: "blocked", new: { blockId: "b", cause: "pass: hunter", waitingFor: null } }, 2),
  ];
  const gone = withoutText(replay(history), "pass: hunter");
  expect(gone).toEqual({
    description: EMPTIED,
    own: { f: EMPTIED, g: "kept" },
    openBlockers: [{ id: "b", cause: EMPTIED, waitingFor: null, since: 2 }],
  });
  const emptied = event({ kind: "emptied", old: { textId: "t" }, new: gone, note: "A secret." }, 3);
  const live = replay([...history, emptied]);
  const stored = [...history, emptied].map((e) =>
    rewriteTexts(e, (text) => (text === "pass: hunter" ? EMPTIED : text)),
  );
  expect(replay(stored)).toEqual(live);
});
