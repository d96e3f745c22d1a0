import { readCloudEvents, UnsignedEvent } from "@/core/formats/cloud-event";
import { readDeliveryEvent } from "@/core/formats/delivery-event";
import {
  checksOf,
  NOTHING_OUTSIDE,
  outsideAfter,
  outsideWords,
  type OutsideFact,
} from "@/core/item/outside";
import { checkWorkflow } from "@/core/workflow/check";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { triggeredTransition } from "@/core/workflow/occurrence";
import {
  isTriggeredBy,
  occurrenceWords,
  TRIGGER_KINDS,
  triggerWords,
  type Occurrence,
  type Trigger,
} from "@/core/workflow/trigger";
import type { Transition, Workflow } from "@/core/workflow/workflow";
import { overlap, sprintSchema, sprintWords } from "@/core/plan/sprint";
import { VOCABULARY } from "./setup/conditions";
import { workflow as bare } from "./setup/make";

const workflow: Workflow = { ...bare, id: "main" };
const around: CheckSurroundings = {
  vocabulary: VOCABULARY,
  peopleOfTeam: {},
  leads: 1,
  workers: 6,
  unshown: {},
};
/** The workflow with other rules for the moves of these verbs. */
const withRules = (rules: Record<string, Partial<Transition>>): Workflow => ({
  ...workflow,
  transitions: workflow.transitions.map((t) => ({ ...t, ...rules[t.verb] })),
});
const findings = (w: Workflow) => checkWorkflow(w, around).map((f) => `${f.code}: ${f.sentence}`);

describe("the check of what happens by itself", () => {
  test("two moves out of one state that wait for the same", () => {
    const both = withRules({
      "Hand to review": { triggers: [{ kind: "deployed", environment: "staging" }] },
      "Put down": { triggers: [{ kind: "deployed", environment: "Staging" }] },
    });
    expect(findings(both)).toEqual([
      "triggers compete: Out of Building both “Hand to review” and “Put down” happen by themselves when it is deployed to staging: only one of them ever will.",
    ]);
    expect(
      findings(
        withRules({
          "Hand to review": { triggers: [{ kind: "deployed", environment: "staging" }] },
          "Put down": { triggers: [{ kind: "deployed", environment: "production" }] },
        }),
      ),
    ).toEqual([]);
    expect(
      findings(
        withRules({
          "Hand to review": { triggers: [{ kind: "checks passed" }] },
          "Start review": { triggers: [{ kind: "checks passed" }] },
        }),
      ),
    ).toEqual([]);
  });
  test("moves that lead round and round with time alone", () => {
    const wait = (days: number): Partial<Transition> => ({
      triggers: [{ kind: "days in state", days }],
    });
    expect(findings(withRules({ "Hand to review": wait(3), "Take back": wait(5) }))).toEqual([
      "moves chase each other: Items would go round for ever by themselves: “Hand to review” to Waiting for review, then “Take back” to Building, and on again.",
    ]);
    expect(findings(withRules({ Pull: wait(3), "Start building": wait(5) }))).toEqual([]);
  });
  test("an item and the one above it that finish and reopen one another", () => {
    const chase = withRules({
      Reopen: { triggers: [{ kind: "parent finished" }] },
      Close: { triggers: [{ kind: "sub-tasks finished" }] },
    });
    expect(
      findings(chase).some((f) =>
        f.startsWith("moves chase each other: “Reopen” and “Close” set each other off"),
      ),
    ).toBe(true);
  });
  test("a field that no type of the workflow has, that some have not, or that was taken out", () => {
    const demanding = (own: typeof VOCABULARY.own) =>
      checkWorkflow(
        withRules({ Pull: { requirements: [{ kind: "filled", field: "own.f-value" }] } }),
        { ...around, vocabulary: { ...VOCABULARY, own } },
      ).map((f) => `${f.severity}: ${f.code}`);
    const value = VOCABULARY.own.find((f) => f.id === "f-value")!;
    expect(demanding([value])).toEqual([]);
    expect(demanding([{ ...value, typeIds: ["bug"] }])).toEqual(["hint: field of some types"]);
    expect(demanding([{ ...value, typeIds: ["task"] }])).toEqual(["weak: field of no type"]);
    expect(demanding([{ ...value, removedAt: 4 }])).toEqual(["weak: field gone"]);
    expect(demanding([])).toEqual(["weak: field gone"]);
  });
});

test("every trigger has words, and is set off by its own occurrence only", () => {
  const sample = (kind: (typeof TRIGGER_KINDS)[number]): Trigger =>
    kind === "deployed"
      ? { kind, environment: "production" }
      : kind === "accepted"
        ? { kind, by: "everybody" }
        : kind === "days in state"
          ? { kind, days: 3 }
          : kind === "date reached"
            ? { kind, field: "dueOn" }
            : kind === "linked ended"
              ? { kind, way: "waits for", how: "any end" }
              : { kind };
  const happened = (kind: (typeof TRIGGER_KINDS)[number]): Occurrence =>
    ({
      ...sample(kind),
      change: "41",
      run: "night",
      asked: 2,
      given: 2,
      parentKey: "TIX-9",
      key: "TIX-9",
    }) as unknown as Occurrence;
  for (const kind of TRIGGER_KINDS) {
    expect(TRIGGER_KINDS.filter((other) => isTriggeredBy(sample(kind), happened(other)))).toEqual([
      kind,
    ]);
    expect(triggerWords(sample(kind))).not.toMatch(/undefined|^$/);
    expect(occurrenceWords(happened(kind))).toMatch(/^[A-Z][^_]*\.$/);
  }
  expect(
    isTriggeredBy({ kind: "days in state", days: 3 }, { kind: "days in state", days: 2.9 }),
  ).toBe(false);
  const waits = { kind: "linked ended", way: "waits for", how: "delivered" } as const;
  const ended = { kind: "linked ended", way: "waits for", key: "TIX-9", delivered: false } as const;
  expect(isTriggeredBy(waits, ended)).toBe(false);
  expect(isTriggeredBy(waits, { ...ended, delivered: true })).toBe(true);
  expect(isTriggeredBy({ ...waits, how: "any end" }, { ...ended, way: "tests" })).toBe(false);
  expect(
    isTriggeredBy(
      { kind: "deployed", environment: "Production" },
      { kind: "deployed", environment: "production" },
    ),
  ).toBe(true);
});

test("of several moves the first out of where the item is, by the order of the moves", () => {
  const w = withRules({
    "Hand to review": { triggers: [{ kind: "checks passed" }] },
    "Start review": { triggers: [{ kind: "checks passed" }] },
  });
  const verb = (stateId: string) =>
    triggeredTransition(w, { stateId }, { kind: "checks passed", change: "1" })?.verb;
  expect([verb("Building"), verb("Waiting for review"), verb("Backlog")]).toEqual([
    "Hand to review",
    "Start review",
    undefined,
  ]);
});

describe("what is known from outside", () => {
  const after = (...facts: OutsideFact[]) => facts.reduce(outsideAfter, NOTHING_OUTSIDE);
  test("changes, their checks and reviews, in any order of what is heard", () => {
    expect(
      after(
        { kind: "checks passed", change: "1" },
        { kind: "change opened", change: "1" },
        { kind: "review approved", change: "1" },
        { kind: "change merged", change: "1" },
      ).changes,
    ).toEqual([{ id: "1", status: "merged", checks: "passed", review: "approved" }]);
    expect(
      after(
        { kind: "deployed", environment: "staging" },
        { kind: "deployed", environment: "staging" },
      ).deployedTo,
    ).toEqual(["staging"]);
    expect(
      after({ kind: "test run passed", run: "a" }, { kind: "test run failed", run: "b" })
        .testResult,
    ).toBe("failed");
  });
  test.each<[OutsideFact[], ReturnType<typeof checksOf>]>([
    [[], null],
    [[{ kind: "change opened", change: "1" }], null],
    [
      [
        { kind: "checks passed", change: "1" },
        { kind: "change opened", change: "2" },
      ],
      "running",
    ],
    [
      [
        { kind: "checks passed", change: "1" },
        { kind: "checks failed", change: "2" },
      ],
      "failed",
    ],
    [
      [
        { kind: "checks passed", change: "1" },
        { kind: "checks failed", change: "2" },
        { kind: "change abandoned", change: "2" },
      ],
      "passed",
    ],
    [
      [
        { kind: "checks passed", change: "1" },
        { kind: "checks started", change: "1" },
      ],
      "running",
    ],
  ])("after %j the checks are %s", (facts, checks) =>
    expect(checksOf(after(...facts).changes)).toBe(checks),
  );
  test("each fact reads as a sentence", () =>
    expect(outsideWords({ kind: "review sent back", change: "7" })).toBe(
      "change 7 was sent back in review",
    ));
});

// CloudEvents 1.0, HTTP protocol binding: structured and batched content mode; the attributes of
// the specification's example, with this world's names.
describe("CloudEvents", () => {
  const event = {
    specversion: "1.0",
    id: "A234-1234-1234",
    source: "/pipeline",
    type: "dev.cdevents.change.merged.0.2.0",
    time: "2018-04-05T17:31:00Z",
    data: { subject: { id: "41", content: {} } },
  };
  test("structured and batched say the same", () => {
    const structured = readCloudEvents(
      "application/cloudevents+json; charset=utf-8",
      JSON.stringify(event),
    );
    expect(structured).toEqual([event]);
    expect(readCloudEvents("application/cloudevents-batch+json", JSON.stringify([event]))).toEqual(
      structured,
    );
  });
  test("what the signature does not reach is not believed: events whose attributes are headers are refused", () => {
    for (const type of ["application/json", "text/plain", ""])
      expect(() => readCloudEvents(type, JSON.stringify(event.data))).toThrow(UnsignedEvent);
  });
  test.each([
    "{}",
    '{"specversion":"0.3","id":"1","source":"s","type":"t"}',
    '{"specversion":"1.0","id":"","source":"s","type":"t"}',
    "[]",
  ])("%s is no event", (body) =>
    expect(() => readCloudEvents("application/cloudevents+json", body)).toThrow(),
  );
  test("a batch has an end", () =>
    expect(() =>
      readCloudEvents("application/cloudevents-batch+json", JSON.stringify(Array(101).fill(event))),
    ).toThrow(/At most 100/));
});

describe("CDEvents", () => {
  const said = (type: string, subject: object, customData: object = {}) =>
    readDeliveryEvent({
      specversion: "1.0",
      id: "1",
      source: "s",
      type: `dev.cdevents.${type}.0.2.0`,
      data: { subject: { content: {}, ...subject }, customData },
    });
  test("items are found by their keys, wherever they are written", () => {
    expect(
      said(
        "change.created",
        { id: "41" },
        { branch: "TIX-12-and-GATE-7", items: ["TIX-3"], note: { more: "x TIX-9." } },
      ),
    ).toEqual({
      fact: { kind: "change opened", change: "41" },
      itemKeys: expect.arrayContaining(["TIX-12", "GATE-7", "TIX-3", "TIX-9"]),
      changes: ["41"],
    });
  });
  test.each([
    [
      "pipelinerun.finished",
      { id: "r", content: { outcome: "success" } },
      { change: "4" },
      { kind: "checks passed", change: "4" },
    ],
    [
      "pipelinerun.finished",
      { id: "r", content: { outcome: "error", change: { id: "5" } } },
      {},
      { kind: "checks failed", change: "5" },
    ],
    [
      "testcaserun.finished",
      { id: "t", content: { outcome: "pass" } },
      {},
      { kind: "test run passed", run: "t" },
    ],
    [
      "service.upgraded",
      { id: "s", content: { environment: { id: "prod" } } },
      {},
      { kind: "deployed", environment: "prod" },
    ],
    [
      "change.reviewed",
      { id: "6" },
      { verdict: "sent back" },
      { kind: "review sent back", change: "6" },
    ],
  ])("%s %j", (type, subject, customData, fact) =>
    expect(said(type, subject, customData)?.fact).toEqual(fact),
  );
  test.each([
    ["change.updated", { id: "1" }],
    ["pipelinerun.finished", { id: "r" }],
    ["change.reviewed", { id: "1" }],
    ["service.deployed", { id: "s" }],
  ])("%s %j says nothing about an item", (type, subject) => expect(said(type, subject)).toBeNull());
  test("an event that lacks what its kind has is refused", () =>
    expect(() =>
      readDeliveryEvent({
        specversion: "1.0",
        id: "1",
        source: "s",
        type: "dev.cdevents.change.merged.0.2.0",
        data: {},
      }),
    ).toThrow());
});

describe("sprints", () => {
  const sprint = (id: string, startsOn: string, endsOn: string) => ({
    id,
    name: id,
    goal: "",
    startsOn,
    endsOn,
  });
  const list = [
    sprint("b", "2026-03-16", "2026-03-29"),
    sprint("a", "2026-03-02", "2026-03-15"),
    sprint("c", "2026-04-06", "2026-04-19"),
  ];
  test.each([
    ["2026-03-15", "a", "b", null],
    ["2026-03-16", "b", "c", "a"],
    ["2026-03-30", null, "c", "b"],
    ["2026-05-01", null, null, "c"],
  ])("on %s: current %s, next %s, previous %s", (day, current, next, previous) =>
    expect(sprintWords(list, day)).toMatchObject({ current, next, previous }),
  );
  test("two that share a day are found", () => {
    expect(overlap(list)).toBeNull();
    expect(overlap([...list, sprint("d", "2026-03-29", "2026-04-01")])?.map((s) => s.id)).toEqual([
      "b",
      "d",
    ]);
  });
  // Common practice, no source: a sprint lasts one to four weeks; a longer one is called a season.
  test.each([
    ["2026-03-01", "2026-03-31", true],
    ["2026-03-01", "2026-06-06", true],
    ["2026-03-01", "2026-06-07", false],
    ["2026-03-02", "2026-03-01", false],
  ])("%s to %s: %s", (startsOn, endsOn, good) =>
    expect(sprintSchema.safeParse(sprint("x", startsOn, endsOn)).success).toBe(good),
  );
});
