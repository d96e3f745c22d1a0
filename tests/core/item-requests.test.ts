import { behindBody } from "@/core/item/list/behind";
import {
  commandRequest,
  createItemBody,
  fieldEditBody,
  itemCommandBody,
} from "@/core/item/request";
import { MOST_OWN_FIELDS } from "@/core/item/own-field";
import { refused } from "./setup/refused";

const ITEM = "019b0000-0000-7000-8000-000000000001";
const OTHER = "019b0000-0000-7000-8000-000000000002";
const long = (length: number) => "x".repeat(length);

describe("a command", () => {
  const move = (answers: object = {}, more: object = {}) => ({
    kind: "move",
    from: "building",
    to: "review",
    answers,
    ...more,
  });
  test.each([
    ["a move", move()],
    ["a move beyond a limit", move({}, { overrideReason: long(2_000) })],
    ["a move with words", move({ reason: long(2_000), comment: long(20_000) })],
    ["a move with an outcome", move({ outcome: "delivered" })],
    ["a move with ticks", move({ ticks: Array(60).fill(long(64)) })],
    ["a move that answers own fields", move({ own: { route: "north", cost: 3 } })],
    ["a move that answers fields", move({ reviewerId: "ivo", estimate: 3 })],
    ["a change", { kind: "edit", seenVersion: 1, changes: { title: "Gate", estimate: null } }],
    ["a change of own fields", { kind: "edit", seenVersion: 2, changes: {}, own: { route: null } }],
    ["a place below another", { kind: "place", below: OTHER }],
    ["a place on top", { kind: "place", below: null }],
    ["a parent", { kind: "put under", parentKey: long(30) }],
    ["no parent", { kind: "put under", parentKey: null }],
    ["a comment", { kind: "comment", body: long(20_000) }],
    ["a question", { kind: "ask", body: long(10_000) }],
    ["a blocker", { kind: "block", cause: long(500), waitingFor: long(200) }],
    ["a blocker that waits for nobody", { kind: "block", cause: "Storm", waitingFor: null }],
    ["the end of a blocker", { kind: "lift", blockId: OTHER }],
    ["a link", { kind: "link", linkKind: "relates to", otherKey: long(30) }],
    ["the end of a link", { kind: "unlink", linkId: OTHER }],
    ["a tick", { kind: "tick", policyId: long(64), on: true }],
    ["an approval", { kind: "approve", on: false }],
    ["an undo", { kind: "undo", commandId: OTHER }],
  ])("%s is understood", (_what, body) => expect(commandRequest.parse(body)).toEqual(body));

  test("a move need not answer anything", () =>
    expect(commandRequest.parse({ kind: "move", from: "a", to: "b" })).toEqual({
      kind: "move",
      from: "a",
      to: "b",
      answers: {},
    }));

  test("blanks around words are none of them", () => {
    expect(commandRequest.parse({ kind: "comment", body: " Aye. " })).toMatchObject({
      body: "Aye.",
    });
    expect(commandRequest.parse({ kind: "ask", body: " When? " })).toMatchObject({ body: "When?" });
    const blocked = { kind: "block", cause: " Storm ", waitingFor: " the tide " };
    expect(commandRequest.parse(blocked)).toMatchObject({ cause: "Storm", waitingFor: "the tide" });
  });

  test.each([
    ["a move from nowhere", move({}, { from: "" }), /./],
    ["a move to nowhere", move({}, { to: "" }), /./],
    ["a move to an id of 65", move({}, { to: long(65) }), /./],
    ["a reason of 2,001", move({ reason: long(2_001) }), /./],
    ["a comment of 20,001 with a move", move({ comment: long(20_001) }), /./],
    ["61 ticks", move({ ticks: Array(61).fill("t") }), /./],
    ["a tick without an id", move({ ticks: [""] }), /./],
    ["an outcome that is none", move({ outcome: "sunk" }), /./],
    // An answer to what a move demands says something.
    ["nobody as an answer", move({ reviewerId: null }), /./],
    ["no estimate as an answer", move({ estimate: null }), /./],
    ["a reason of 2,001 to go beyond", move({}, { overrideReason: long(2_001) }), /./],
    ["a change of nothing seen", { kind: "edit", seenVersion: 0, changes: {} }, /./],
    ["a title of nothing", { kind: "edit", seenVersion: 1, changes: { title: " " } }, /./],
    ["a place below no id", { kind: "place", below: "TIX-1" }, /./],
    ["a parent's key of 31", { kind: "put under", parentKey: long(31) }, /./],
    ["an empty comment", { kind: "comment", body: " " }, /^Write something first\.$/],
    ["a comment of 20,001", { kind: "comment", body: long(20_001) }, /./],
    ["an empty question", { kind: "ask", body: " " }, /^Write a question first\.$/],
    ["a question of 10,001", { kind: "ask", body: long(10_001) }, /./],
    [
      "a blocker without a cause",
      { kind: "block", cause: " ", waitingFor: null },
      /^A blocker needs a cause\.$/,
    ],
    ["a cause of 501", { kind: "block", cause: long(501), waitingFor: null }, /./],
    ["waiting for 201", { kind: "block", cause: "x", waitingFor: long(201) }, /./],
    ["a link that is none", { kind: "link", linkKind: "likes", otherKey: "TIX-1" }, /./],
    ["a link to a key of 31", { kind: "link", linkKind: "relates to", otherKey: long(31) }, /./],
    ["the end of no blocker", { kind: "lift", blockId: "x" }, /./],
    ["the end of no link", { kind: "unlink", linkId: "x" }, /./],
    ["a tick of nothing", { kind: "tick", policyId: "", on: true }, /./],
    ["an undo of nothing", { kind: "undo", commandId: "x" }, /./],
    ["another kind", { kind: "sink" }, /./],
  ])("%s is refused", (_what, body, says) =>
    expect(refused(commandRequest, body).join()).toMatch(says),
  );

  test("names its item and itself by ids", () => {
    const body = { commandId: OTHER, itemId: ITEM, command: { kind: "approve", on: true } };
    expect(itemCommandBody.parse(body)).toEqual(body);
    expect(refused(itemCommandBody, { ...body, commandId: "x" })).toHaveLength(1);
    expect(refused(itemCommandBody, { ...body, itemId: "TIX-1" })).toHaveLength(1);
  });
});

describe("a new item", () => {
  const made = (fields: object = {}, more: object = {}) => ({
    commandId: ITEM,
    projectKey: "TIX",
    parentId: null,
    fields: { title: "Gate", typeId: "story", ...fields },
    ...more,
  });
  test.each([
    made(),
    made({ description: "Shut.", estimate: 3, labels: ["quay"] }),
    made({ own: { route: "north" } }),
    made({}, { parentId: OTHER }),
    made({}, { projectKey: long(12) }),
  ])("%#: is understood", (body) => expect(createItemBody.parse(body)).toEqual(body));
  test("stands under none unless it is said", () => {
    const { parentId: _, ...short } = made();
    expect(createItemBody.parse(short)).toEqual(made());
  });
  test.each([
    made({ title: " " }),
    made({ typeId: "" }),
    made({ typeId: long(65) }),
    made({ own: { [long(65)]: 1 } }),
    made({}, { parentId: "TIX-1" }),
    made({}, { projectKey: long(13) }),
    made({}, { commandId: "x" }),
  ])("%#: is refused", (body) => expect(refused(createItemBody, body)).toHaveLength(1));
});

describe("a change of own fields", () => {
  test.each([
    { kind: "remove", id: long(64) },
    { kind: "bring back", id: "f" },
    { kind: "order", ids: [] },
    { kind: "order", ids: Array(MOST_OWN_FIELDS * 2).fill("f") },
  ])("%#: is understood", (body) => expect(fieldEditBody.parse(body)).toEqual(body));
  test.each([
    { kind: "remove", id: "" },
    { kind: "remove", id: long(65) },
    { kind: "bring back", id: "" },
    { kind: "bring back", id: long(65) },
    { kind: "order", ids: [""] },
    { kind: "order", ids: [long(65)] },
    { kind: "order", ids: Array(MOST_OWN_FIELDS * 2 + 1).fill("f") },
  ])("%#: is refused", (body) => expect(refused(fieldEditBody, body)).toHaveLength(1));
});

describe("what is looked for", () => {
  test("the items behind a figure are 5,000 at most, by their ids", () => {
    const ids = Array(5_000).fill(ITEM);
    expect(behindBody.parse({ ids })).toEqual({
      ids,
      sort: [],
      group: null,
      after: null,
      at: null,
    });
    expect(refused(behindBody, { ids: [...ids, ITEM] })).toHaveLength(1);
    expect(refused(behindBody, { ids: ["TIX-1"] })).toHaveLength(1);
  });
});
