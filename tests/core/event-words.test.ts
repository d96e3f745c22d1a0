import type { LinkKind } from "@/core/item/fields";
import type { ItemChange, ItemEvent } from "@/core/item/event";
import { checksOf, NOTHING_OUTSIDE, outsideAfter, outsideWords } from "@/core/item/outside";
import type { LinkedChange, OutsideFact } from "@/core/item/outside";
import { keysIn, parseItemKey } from "@/core/item/key";
import { maskKeys, OUTSIDE_WORDS } from "@/core/item/mask-keys";
import { linkWords } from "@/core/item/link-way";
import { eventWords, noteOf, type Names } from "@/core/item/words";
import { OWN_FIELDS } from "./setup/conditions";
import { created } from "./setup/make";

const NAMES: Names = {
  state: (id) => `state ${id}`,
  person: (id) => `person ${id}`,
  team: (id) => `team ${id}`,
  type: (id) => `type ${id}`,
  sprint: (id) => `sprint ${id}`,
  release: (id) => `release ${id}`,
  own: (id) => OWN_FIELDS.find((f) => f.id === id),
};
const event = (change: ItemChange): ItemEvent => ({
  ...change,
  itemId: "i",
  seq: 1,
  at: 0,
  actorId: "noor",
  cause: "person",
  commandId: "c",
});
const moved = (isReturn: boolean): ItemChange => ({
  kind: "moved",
  old: { stateId: "a", kind: "working" },
  new: { stateId: "b", kind: "working", isReturn, rank: null },
  note: "because",
});
const link = (kind: LinkKind, outward: boolean) => ({
  linkId: "l",
  kind,
  otherId: "x",
  otherKey: "TIX-9",
  outward,
});
const TIME = {
  entryId: "e",
  personId: "noor",
  on: "2026-11-12",
  minutes: 90,
  note: "on the quay",
};
const under = { parentId: "p", key: "TIX-7" };

test.each<[ItemChange, string]>([
  [{ kind: "created", new: created }, "created it in state Backlog"],
  [moved(false), "moved it from state a to state b"],
  [moved(true), "sent it back from state a to state b"],
  [{ kind: "changed", field: "title", old: "A", new: "B" }, "changed the title from A to B"],
  [{ kind: "changed", field: "description", old: "", new: "B" }, "rewrote the description"],
  [{ kind: "changed", field: "description", old: "A", new: "" }, "cleared the description"],
  [{ kind: "changed", field: "estimate", old: null, new: 3 }, "set the estimate to 3"],
  [{ kind: "changed", field: "place", old: "", new: "Pier" }, "set the place to Pier"],
  [{ kind: "changed", field: "place", old: "Pier", new: "" }, "cleared the place (was Pier)"],
  [{ kind: "changed", field: "estimate", old: 3, new: null }, "cleared the estimate (was 3)"],
  [
    { kind: "changed", field: "priority", old: "low", new: "high" },
    "changed the priority from low to high",
  ],
  [
    { kind: "changed", field: "assigneeId", old: "ivo", new: "noor" },
    "changed the assignee from person ivo to person noor",
  ],
  [{ kind: "changed", field: "teamId", old: null, new: "t" }, "set the team to team t"],
  [
    { kind: "changed", field: "typeId", old: "a", new: "b" },
    "changed the type from type a to type b",
  ],
  [{ kind: "changed", field: "sprintId", old: null, new: "s" }, "set the sprint to sprint s"],
  [
    { kind: "changed", field: "releaseId", old: "r", new: null },
    "cleared the release (was release r)",
  ],
  [
    { kind: "changed", field: "labels", old: [], new: ["gate", "night"] },
    "changed the labels from none to gate, night",
  ],
  [
    { kind: "changed", field: "labels", old: ["gate"], new: [] },
    "changed the labels from gate to none",
  ],
  [
    { kind: "changed", field: "outcome", old: null, new: "delivered" },
    "set the outcome to delivered",
  ],
  [
    { kind: "own changed", field: "f-value", old: null, new: 1200 },
    "set Value lost per week to 1,200 pounds",
  ],
  [
    { kind: "own changed", field: "f-value", old: 1, new: null },
    "cleared Value lost per week (was 1 pounds)",
  ],
  [
    { kind: "own changed", field: "f-skipper", old: "ivo", new: "noor" },
    "changed Skipper from person ivo to person noor",
  ],
  [{ kind: "own changed", field: "gone", old: null, new: 3 }, "set a field that is gone to 3"],
  [
    { kind: "reported", new: { kind: "deployed", environment: "harbour" }, note: "Pipeline" },
    "heard: it was deployed to harbour",
  ],
  [
    { kind: "held", new: { transitionId: "t", to: "b" }, note: "no reviewer" },
    "left it where it is instead of moving it to state b",
  ],
  [{ kind: "put under", old: null, new: under }, "put it under TIX-7"],
  [
    {
      kind: "changed project",
      old: { projectId: "tix", number: 12, key: "TIX-12" },
      new: { projectId: "gate", number: 3, key: "GATE-3" },
    },
    "moved it to another project: it was TIX-12 and is GATE-3 now",
  ],
  [{ kind: "put under", old: under, new: null }, "took it out from under TIX-7"],
  [{ kind: "put under", old: null, new: null }, "took it out from under another item"],
  [{ kind: "ranked", old: "a", new: "b" }, "gave it another place in the order"],
  [{ kind: "commented", new: { commentId: "c", body: "x" } }, "commented"],
  [
    { kind: "blocked", new: { blockId: "b", cause: "storm", waitingFor: null } },
    "marked it blocked: storm",
  ],
  [
    { kind: "blocked", new: { blockId: "b", cause: "storm", waitingFor: "the harbour" } },
    "marked it blocked: storm, waiting for the harbour",
  ],
  [{ kind: "lifted", old: { blockId: "b", cause: "storm" } }, "lifted the blocker: storm"],
  [{ kind: "lifted", old: { blockId: "b", cause: "" } }, "lifted the blocker"],
  [{ kind: "linked", new: link("duplicates", true) }, "linked it: duplicates TIX-9"],
  [{ kind: "unlinked", old: link("came from", false) }, "took away the link: led to TIX-9"],
  [{ kind: "ticked", new: { policyId: "p", text: "Tested" } }, "ticked “Tested”"],
  [{ kind: "unticked", old: { policyId: "p", text: "Tested" } }, "took the tick from “Tested”"],
  [{ kind: "approved", new: { role: "lead" } }, "approved it as lead"],
  [{ kind: "approval withdrawn" }, "took the approval back"],
  [
    { kind: "undone", old: { commandId: "c", fromSeq: 1, toSeq: 1 }, new: { stateId: "a" } },
    "undid the step: it is in state a as before",
  ],
  [
    { kind: "undone", old: { commandId: "c", fromSeq: 1, toSeq: 1 }, new: { title: "A" } },
    "undid the last step",
  ],
  [{ kind: "emptied", old: { textId: "t" }, new: {}, note: "why" }, "emptied a text of it"],
  [{ kind: "withdrawn", note: "Twice" }, "withdrew it"],
  [{ kind: "brought back" }, "brought it back"],
  [{ kind: "file added", new: { fileId: "f", name: "quay.png" } }, "added the file quay.png"],
  [{ kind: "time recorded", old: null, new: TIME }, "recorded 1 h 30 min on 12 Nov"],
  [
    { kind: "time recorded", old: TIME, new: { ...TIME, minutes: 45, on: "2026-11-13" } },
    "changed what was recorded from 1 h 30 min on 12 Nov to 45 min on 13 Nov",
  ],
  [
    { kind: "time recorded", old: TIME, new: null },
    "removed 1 h 30 min on 12 Nov that were recorded",
  ],
  [{ kind: "file removed", old: { fileId: "f", name: "quay.png" } }, "took the file quay.png off"],
])("%j reads “%s”", (change, words) => expect(eventWords(event(change), NAMES)).toBe(words));

test("what was said with an event, and nothing where nothing was", () => {
  expect(noteOf(event(moved(true)))).toBe("because");
  expect(noteOf(event({ kind: "withdrawn", note: "Twice" }))).toBe("Twice");
  expect(noteOf(event({ kind: "time recorded", old: null, new: TIME }))).toBe("on the quay");
  expect(noteOf(event({ kind: "ranked", old: "a", new: "b" }))).toBeNull();
});

test.each([
  ["duplicates", true, "duplicates TIX-9"],
  ["duplicates", false, "is duplicated by TIX-9"],
  ["came from", true, "came from TIX-9"],
  ["came from", false, "led to TIX-9"],
  ["found in", true, "found in TIX-9"],
  ["found in", false, "is where somebody found TIX-9"],
  ["tested by", false, "tests TIX-9"],
  ["relates to", false, "relates to TIX-9"],
  ["waits for", true, "waits for TIX-9"],
  ["waits for", false, "is waited for by TIX-9"],
] as const)("a link that %s, outward %s: %s", (kind, outward, words) =>
  expect(linkWords(link(kind, outward))).toBe(words),
);

describe("what is known from outside", () => {
  const change = (of: Partial<LinkedChange>): LinkedChange => ({
    id: "41",
    status: "open",
    checks: null,
    review: null,
    ...of,
  });
  const after = (...facts: OutsideFact[]) => facts.reduce(outsideAfter, NOTHING_OUTSIDE);

  test.each<[OutsideFact, string, Partial<LinkedChange>]>([
    [{ kind: "change opened", change: "41" }, "change 41 was opened", {}],
    [{ kind: "change merged", change: "41" }, "change 41 was merged", { status: "merged" }],
    [{ kind: "change abandoned", change: "41" }, "change 41 was given up", { status: "abandoned" }],
    [{ kind: "checks started", change: "41" }, "checks of change 41 began", { checks: "running" }],
    [{ kind: "checks passed", change: "41" }, "checks of change 41 passed", { checks: "passed" }],
    [{ kind: "checks failed", change: "41" }, "checks of change 41 failed", { checks: "failed" }],
    [
      { kind: "review approved", change: "41" },
      "change 41 was approved in review",
      { review: "approved" },
    ],
    [
      { kind: "review sent back", change: "41" },
      "change 41 was sent back in review",
      { review: "sent back" },
    ],
  ])("%j: %s", (fact, words, is) => {
    expect(outsideWords(fact)).toBe(words);
    expect(after(fact).changes).toEqual([change(is)]);
  });

  test("test runs and environments, each of these once", () => {
    expect(outsideWords({ kind: "test run passed", run: "7" })).toBe("test run 7 passed");
    expect(outsideWords({ kind: "test run failed", run: "7" })).toBe("test run 7 failed");
    expect(after({ kind: "test run failed", run: "7" }).testResult).toBe("failed");
    expect(
      after({ kind: "test run failed", run: "7" }, { kind: "test run passed", run: "8" })
        .testResult,
    ).toBe("passed");
    const to = (environment: string): OutsideFact => ({ kind: "deployed", environment });
    expect(after(to("harbour"), to("open sea"), to("harbour")).deployedTo).toEqual([
      "harbour",
      "open sea",
    ]);
  });

  test("a fact changes its own change and keeps what else is known of it, and its place", () => {
    expect(
      after(
        { kind: "checks passed", change: "41" },
        { kind: "change opened", change: "42" },
        { kind: "change merged", change: "41" },
      ).changes,
    ).toEqual([change({ status: "merged", checks: "passed" }), change({ id: "42" })]);
  });

  test.each<[LinkedChange["checks"][], string | null]>([
    [[], null],
    [[null, null], null],
    [["passed", "passed"], "passed"],
    [["passed", null], "running"],
    [["passed", "running"], "running"],
    [["running", "failed"], "failed"],
  ])("checks %j together: %s", (checks, together) =>
    expect(checksOf(checks.map((c) => change({ checks: c })))).toBe(together),
  );

  test("the checks of what was given up count no more", () => {
    const given = change({ status: "abandoned", checks: "failed" });
    expect(checksOf([given, change({ checks: "passed" })])).toBe("passed");
    expect(checksOf([given])).toBeNull();
  });
});

test.each([
  ["TIX-12", { prefix: "TIX", number: 12 }],
  [" tix-12 ", { prefix: "TIX", number: 12 }],
  ["T2-1", { prefix: "T2", number: 1 }],
  ["TIX", null],
  ["2T-1", null],
  ["T-1", null],
  ["TIX-1234567890", null],
  ["TIX-1 x", null],
])("the key %j is %j", (text, key) => expect(parseItemKey(text)).toEqual(key));

test("keys in a sentence are found, and those that a reader must not learn are not told", () => {
  const text = "TIX-9 waits for GATE-12, not for XTIX-9 or tix-3.";
  expect(keysIn(text)).toEqual(["TIX-9", "GATE-12", "XTIX-9"]);
  expect(keysIn("none")).toEqual([]);
  expect(maskKeys(text, new Set(["TIX-9"]))).toBe(
    `${OUTSIDE_WORDS} waits for GATE-12, not for XTIX-9 or tix-3.`,
  );
  expect(maskKeys(text, new Set())).toBe(text);
  expect(OUTSIDE_WORDS).toBe("an item outside your view");
});
