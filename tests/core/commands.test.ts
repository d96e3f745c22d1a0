import type { ItemCommand } from "@/core/item/command";
import { agreementOf } from "@/core/item/agreement";
import { decide, type DecisionContext } from "@/core/item/decide";
import type { ItemChange } from "@/core/item/event";
import { EMPTIED } from "@/core/item/event-texts";
import type { ItemSnapshot } from "@/core/item/fields";
import { isRefusal } from "@/core/workflow/refusal";
import { OWN_FIELDS } from "./setup/conditions";
import { context, created, Subject, workflow } from "./setup/make";

/** The workflow with an agreement: tested before it leaves Building, explained before review. */
const agreed = {
  ...workflow,
  states: workflow.states.map((s) =>
    s.id === "Building"
      ? { ...s, exitPolicies: [{ id: "tested", text: "The tests pass" }] }
      : s.id === "Waiting for review"
        ? { ...s, entryPolicies: [{ id: "told", text: "The change says why" }] }
        : s,
  ),
  transitions: workflow.transitions.map((t) =>
    t.to === "Waiting for review"
      ? { ...t, requirements: [{ kind: "approvals" as const, count: 1, role: null, teamId: null }] }
      : t,
  ),
};

/** An item that is being built by Ivo, with a blocker. */
function building(): Subject {
  const subject = new Subject({ own: { "f-note": "ropes" }, parentId: "above" });
  subject.move("Ready").move("Building", { assigneeId: "ivo" });
  subject.do({ kind: "block", blockId: "b1", cause: "no device", waitingFor: null });
  return subject;
}

/** What a command leaves on it: the events' own parts, and what is different about the item. */
function left(command: ItemCommand, change: Partial<DecisionContext> = {}, subject = building()) {
  const before = subject.item!;
  const events = subject.do(command, { workflow: agreed, ownFields: OWN_FIELDS, ...change });
  const changes = events.map(
    ({ itemId: _, seq: _s, at: _at, actorId: _a, cause: _c, commandId: _id, ...rest }) => rest,
  ) as ItemChange[];
  const after = subject.item!;
  const differs = Object.keys(after).filter(
    (key) =>
      !["version", "updatedAt"].includes(key) &&
      JSON.stringify(before[key as keyof ItemSnapshot]) !==
        JSON.stringify(after[key as keyof ItemSnapshot]),
  );
  const now = Object.fromEntries(differs.map((key) => [key, after[key as keyof ItemSnapshot]]));
  return { changes, now, at: after.updatedAt };
}

const above = { parentId: "above", key: "TIX-7" };
const other = { parentId: "other", key: "TIX-8" };
const link = {
  linkId: "l",
  linkKind: "duplicates" as const,
  otherId: "x",
  otherKey: "TIX-9",
  outward: true,
};
const linked = { linkId: "l", kind: "duplicates", otherId: "x", otherKey: "TIX-9", outward: true };

test.each<[string, ItemCommand, ItemChange[], Partial<ItemSnapshot>]>([
  [
    "under another item",
    { kind: "put under", parent: other, before: above },
    [{ kind: "put under", old: above, new: other }],
    { parentId: "other" },
  ],
  [
    "out from under one",
    { kind: "put under", parent: null, before: above },
    [{ kind: "put under", old: above, new: null }],
    { parentId: null },
  ],
  ["under the same", { kind: "put under", parent: above, before: above }, [], {}],
  [
    "another place",
    { kind: "rank", rank: "a5" },
    [{ kind: "ranked", old: "a0", new: "a5" }],
    { rank: "a5" },
  ],
  ["the same place", { kind: "rank", rank: "a0" }, [], {}],
  [
    "a comment",
    { kind: "comment", commentId: "c", body: " Mind the step. " },
    [{ kind: "commented", new: { commentId: "c", body: "Mind the step." } }],
    {},
  ],
  ["a link", { kind: "link", ...link }, [{ kind: "linked", new: linked } as ItemChange], {}],
  [
    "a link less",
    { kind: "unlink", ...link },
    [{ kind: "unlinked", old: linked } as ItemChange],
    {},
  ],
  [
    "what is known outside",
    { kind: "report", facts: [{ kind: "deployed", environment: "harbour" }], source: "Pipeline" },
    [
      {
        kind: "reported",
        new: { kind: "deployed", environment: "harbour" },
        note: "Pipeline",
      },
    ],
    { outside: { changes: [], deployedTo: ["harbour"], testResult: null } },
  ],
  [
    "a move that did not happen",
    { kind: "hold", transitionId: "t", to: "In review", note: "Nobody reviews." },
    [{ kind: "held", new: { transitionId: "t", to: "In review" }, note: "Nobody reviews." }],
    {},
  ],
  [
    "an own field",
    { kind: "edit", seenVersion: 5, changes: {}, own: { "f-value": 400, "f-note": null } },
    [
      { kind: "own changed", field: "f-value", old: null, new: 400 },
      { kind: "own changed", field: "f-note", old: "ropes", new: null },
    ],
    { own: { "f-value": 400 } },
  ],
  [
    "an own field to what it is",
    { kind: "edit", seenVersion: 5, changes: {}, own: { "f-note": "ropes", "f-value": null } },
    [],
    {},
  ],
  [
    "a title with spaces around",
    { kind: "edit", seenVersion: 5, changes: { title: " Short " } },
    [{ kind: "changed", field: "title", old: created.title, new: "Short" }],
    { title: "Short" },
  ],
  [
    "an emptied text",
    { kind: "empty", textId: "t1", body: "ropes", why: " a password " },
    [
      {
        kind: "emptied",
        old: { textId: "t1" },
        new: { own: { "f-note": EMPTIED } },
        note: "a password",
      },
    ],
    { own: { "f-note": EMPTIED } },
  ],
])("%s", (_what, command, changes, now) => {
  const result = left(command);
  expect(result.changes).toEqual(changes);
  expect(result.now).toEqual(now);
});

test("into another state because its own is gone: asks for nothing, and is no rework", () => {
  const { changes, now, at } = left({ kind: "place in state", to: "Ready", note: "Taken out" });
  expect(changes).toEqual([
    {
      kind: "moved",
      old: { stateId: "Building", kind: "working" },
      new: { stateId: "Ready", kind: "waiting", isReturn: false, rank: null },
      note: "Taken out",
    },
  ]);
  expect(now).toEqual({ stateId: "Ready", stateKind: "waiting", enteredStateAt: at });
  expect(left({ kind: "place in state", to: "Building", note: "" }).changes).toEqual([]);
});

test("a blocker more and a blocker less: blocked since the first, until the last is lifted", () => {
  const subject = building();
  const since = subject.item!.blockedSince;
  subject.do({ kind: "block", blockId: "b2", cause: " storm ", waitingFor: "  " });
  expect(subject.item!.openBlockers[1]).toEqual({
    id: "b2",
    cause: "storm",
    waitingFor: null,
    since: subject.item!.updatedAt,
  });
  expect(subject.item!.blockedSince).toBe(since);
  expect(subject.do({ kind: "lift", blockId: "b1" })[0]).toMatchObject({
    kind: "lifted",
    old: { blockId: "b1", cause: "no device" },
  });
  expect(subject.item!.blockedSince).toBe(since);
  subject.do({ kind: "lift", blockId: "b2" });
  expect(subject.item!.blockedSince).toBeNull();
});

describe("the agreement of a state", () => {
  const tick = (policyId: string, on: boolean): ItemCommand => ({ kind: "tick", policyId, on });
  const nameOf = (id: string) => id.toUpperCase();
  const seen = (subject: Subject, personId: string) =>
    agreementOf(agreed, subject.item!, { personId, mayMove: true }, nameOf);

  test("is ticked and unticked, by whom and when", () => {
    const subject = building();
    const at = left(tick("tested", true), {}, subject);
    expect(at.changes).toEqual([
      { kind: "ticked", new: { policyId: "tested", text: "The tests pass" } },
    ]);
    expect(at.now).toEqual({ ticks: [{ policyId: "tested", byId: "noor", at: at.at }] });
    expect(left(tick("tested", true), {}, subject).changes).toEqual([]);
    left(tick("told", true), {}, subject);
    expect(seen(subject, "noor").points).toEqual([
      {
        id: "tested",
        text: "The tests pass",
        when: "to leave Building",
        ticked: true,
        tickedBy: "NOOR",
      },
      {
        id: "told",
        text: "The change says why",
        when: "to enter Waiting for review",
        ticked: true,
        tickedBy: "NOOR",
      },
    ]);
    expect(left(tick("tested", false), {}, subject).changes).toEqual([
      { kind: "unticked", old: { policyId: "tested", text: "The tests pass" } },
    ]);
    expect(subject.item!.ticks.map((t) => t.policyId)).toEqual(["told"]);
    expect(seen(subject, "noor").points[0]).toMatchObject({ ticked: false, tickedBy: null });
  });

  test("is approved by others than who does it, once each, and taken back", () => {
    const subject = building();
    const yes = left({ kind: "approve", on: true }, {}, subject);
    expect(yes.changes).toEqual([{ kind: "approved", new: { role: "member" } }]);
    expect(yes.now).toEqual({ approvals: [{ byId: "noor", role: "member", at: yes.at }] });
    expect(left({ kind: "approve", on: true }, {}, subject).changes).toEqual([]);
    expect(seen(subject, "noor")).toMatchObject({
      wantsApprovals: true,
      approvals: [{ id: "noor", name: "NOOR", at: yes.at }],
      approvedByMe: true,
      mayApprove: true,
    });
    expect(seen(subject, "ivo")).toMatchObject({ approvedByMe: false, mayApprove: false });
    expect(
      agreementOf(agreed, subject.item!, { personId: "mei", mayMove: false }, nameOf).mayApprove,
    ).toBe(false);
    const no = left({ kind: "approve", on: false }, {}, subject);
    expect(no.changes).toEqual([{ kind: "approval withdrawn" }]);
    expect(no.now).toEqual({ approvals: [] });
    expect(left({ kind: "approve", on: false }, {}, subject).changes).toEqual([]);
  });

  test("ends with the state: the move keeps what was agreed, and an undo brings it back", () => {
    const subject = building();
    left({ kind: "tick", policyId: "tested", on: true }, {}, subject);
    left({ kind: "tick", policyId: "told", on: true }, {}, subject);
    left({ kind: "approve", on: true }, {}, subject);
    const { ticks, approvals } = subject.item!;
    subject.move("Waiting for review", {}, { workflow: agreed });
    expect(subject.events.at(-1)).toMatchObject({ kind: "moved", old: { ticks, approvals } });
    expect(subject.item).toMatchObject({ ticks: [], approvals: [] });
    subject.undo({ workflow: agreed });
    expect(subject.item).toMatchObject({ stateId: "Building", ticks, approvals });
  });

  test("where nothing is agreed there is nothing to tick, and no move waits", () => {
    expect(
      agreementOf(workflow, building().item!, { personId: "ivo", mayMove: true }, nameOf),
    ).toEqual({
      points: [],
      wantsApprovals: false,
      approvals: [],
      approvedByMe: false,
      mayApprove: false,
    });
  });
});

const finished = new Subject().move("Closed", { outcome: "obsolete" }).item!;

test.each<[string, ItemCommand, ItemSnapshot | null, string, string, Partial<DecisionContext>?]>([
  [
    "making it without a title",
    { kind: "create", data: { ...created, title: " " } },
    null,
    "invalid",
    "An item needs a title.",
  ],
  ["making it twice", { kind: "create", data: created }, finished, "invalid", "exists already"],
  [
    "an empty title",
    { kind: "edit", seenVersion: 5, changes: { title: "  " } },
    building().item!,
    "invalid",
    "An item needs a title.",
  ],
  [
    "an edit of what does not exist yet",
    { kind: "edit", seenVersion: 9, changes: { title: "New" } },
    building().item!,
    "invalid",
    "a version that does not exist yet",
  ],
  [
    "an empty comment",
    { kind: "comment", commentId: "c", body: " \n" },
    building().item!,
    "invalid",
    "The comment is empty.",
  ],
  [
    "a blocker without a cause",
    { kind: "block", blockId: "b", cause: " ", waitingFor: null },
    building().item!,
    "invalid",
    "A blocker needs a cause.",
  ],
  [
    "a link to itself",
    { kind: "link", ...link, otherId: "item" },
    building().item!,
    "invalid",
    "An item cannot be linked to itself.",
  ],
  [
    "anything of what was taken back",
    { kind: "rank", rank: "a5" },
    { ...finished, withdrawnAt: 5 },
    "withdrawn",
    "This item is withdrawn",
  ],
  ["what is not there", { kind: "rank", rank: "a" }, null, "not found", "no such item"],
  [
    "a blocker of what is finished",
    { kind: "block", blockId: "b", cause: "x", waitingFor: null },
    finished,
    "invalid",
    "A finished item cannot be blocked.",
  ],
  [
    "lifting twice",
    { kind: "lift", blockId: "gone" },
    building().item!,
    "blocker unknown",
    "lifted already",
  ],
  [
    "a point that is not agreed here",
    { kind: "tick", policyId: "elsewhere", on: true },
    building().item!,
    "invalid",
    "no agreement that is in force here",
  ],
  [
    "an approval of nobody",
    { kind: "approve", on: true },
    building().item!,
    "invalid",
    "An approval is somebody's.",
    { actor: { personId: null, role: "member", teamIds: [] } },
  ],
  [
    "approving one's own work",
    { kind: "approve", on: true },
    building().item!,
    "same person",
    "Nobody approves their own work.",
    { actor: { personId: "ivo", role: "lead", teamIds: [] } },
  ],
  [
    "a field that its type has not",
    { kind: "edit", seenVersion: 5, changes: {}, own: { nothing: 1 } },
    building().item!,
    "invalid",
    "Items of this type have no such field.",
  ],
  [
    "a value that does not fit",
    { kind: "edit", seenVersion: 5, changes: {}, own: { "f-value": "many" } },
    building().item!,
    "invalid",
    "“Value lost per week” is a number.",
  ],
  [
    "clearing what is computed",
    { kind: "edit", seenVersion: 5, changes: {}, own: { "f-cost": null } },
    building().item!,
    "invalid",
    "“Cost of delay” is computed and cannot be set.",
  ],
  [
    "emptying without a reason",
    { kind: "empty", textId: "t", body: "ropes", why: " " },
    building().item!,
    "invalid",
    "Emptying a text needs a reason.",
  ],
  [
    "emptying twice",
    { kind: "empty", textId: "t", body: EMPTIED, why: "x" },
    building().item!,
    "invalid",
    "emptied already",
  ],
  [
    "taking back what has started",
    { kind: "withdraw", note: "" },
    building().item!,
    "in use",
    "it is in Building",
  ],
])("refused: %s", (_what, command, item, code, sentence, change = {}) => {
  const answer = decide(
    item,
    command,
    context({ workflow: agreed, ownFields: OWN_FIELDS, ...change }),
  );
  expect(isRefusal(answer)).toBe(true);
  expect(answer).toMatchObject({ code, sentence: expect.stringContaining(sentence) });
  expect((answer as { help: string }).help).toMatch(/^[A-Z].+\.$/);
});

test("a text is emptied of what was taken back too", () => {
  const subject = new Subject({ description: "a secret" });
  subject.do({ kind: "withdraw", note: "Twice" });
  subject.do({ kind: "empty", textId: "t", body: "a secret", why: "a password" });
  expect(subject.item).toMatchObject({ description: EMPTIED });
  expect(subject.item!.withdrawnAt).not.toBeNull();
});

test("a stale edit names every field that somebody else changed, own ones too, with what they say now", () => {
  const subject = building();
  subject.do(
    {
      kind: "edit",
      seenVersion: 5,
      changes: { estimate: 3, place: "Pier" },
      own: { "f-note": "x" },
    },
    { ownFields: OWN_FIELDS },
  );
  const answer = decide(
    subject.item,
    {
      kind: "edit",
      seenVersion: 5,
      changes: { estimate: 8, title: "New" },
      own: { "f-note": "y" },
    },
    context({ ownFields: OWN_FIELDS, changedSince: () => ["estimate", "place", "f-note"] }),
  );
  expect(answer).toMatchObject({
    code: "conflict",
    sentence:
      "Somebody else changed the estimate and the Note for the deck while you were editing.",
    conflict: [
      { field: "estimate", current: 3 },
      { field: "f-note", current: "x" },
    ],
    version: 8,
  });
});

describe("undo is refused", () => {
  const undone = (subject: Subject, change: Partial<DecisionContext> = {}) =>
    decide(
      subject.item,
      { kind: "undo", undoneId: subject.events.at(-1)!.commandId, history: subject.events },
      context(change),
    );

  test("of a command that was not the last, and of one that is not there", () => {
    const subject = building();
    const first = subject.events[1].commandId;
    for (const undoneId of [first, "nothing"])
      expect(
        decide(subject.item, { kind: "undo", undoneId, history: subject.events }, context()),
      ).toMatchObject({
        code: "conflict",
        sentence: "Something else has happened to this item since.",
        help: "Look at its history, then change it by hand.",
      });
  });

  test("of somebody else's step", () =>
    expect(undone(building(), { actorId: "mei" })).toMatchObject({
      code: "not allowed",
      sentence: "Only your own steps can be undone.",
      help: "Ask who did it.",
    }));

  test("of a comment, of a link and of the item's making", () => {
    const commented = building();
    commented.do({ kind: "comment", commentId: "c", body: "x" });
    expect(undone(commented)).toMatchObject({
      code: "invalid",
      sentence: "A comment cannot be undone.",
      help: "Write another one.",
    });
    const linked = building();
    linked.do({ kind: "link", ...link });
    for (const subject of [linked, new Subject()])
      expect(undone(subject)).toMatchObject({
        code: "invalid",
        sentence: "This step cannot be undone.",
        help: "Change the item by hand.",
      });
  });
});

test("what a move sets, says and answers goes with it, in this order", () => {
  const subject = new Subject({ assigneeId: "ivo" });
  subject.move("Ready").move("Building").move("Waiting for review");
  const asking = {
    ...workflow,
    transitions: workflow.transitions.map((t) =>
      t.to === "In review"
        ? {
            ...t,
            requirements: [
              ...t.requirements,
              { kind: "comment" as const },
              { kind: "filled" as const, field: "own.f-value" as const },
            ],
          }
        : t,
    ),
  };
  const events = subject.do(
    {
      kind: "move",
      from: "Waiting for review",
      to: "In review",
      answers: { reviewerId: "noor", comment: "Mind the tide.", own: { "f-value": 3 } },
      commentId: "c1",
      rank: "a9",
      because: "A change was opened.",
    },
    { ownFields: OWN_FIELDS, workflow: asking },
  );
  expect(events.map((e) => e.kind)).toEqual(["changed", "own changed", "commented", "moved"]);
  expect(events.at(-1)).toMatchObject({
    old: { stateId: "Waiting for review", kind: "waiting" },
    new: { stateId: "In review", kind: "working", isReturn: false, rank: "a9" },
    note: "A change was opened.",
  });
  expect(events.map((e) => e.seq)).toEqual([5, 6, 7, 8]);
  expect(subject.item).toMatchObject({ reviewerId: "noor", own: { "f-value": 3 }, rank: "a9" });
});
