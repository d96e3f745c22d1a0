import { atMost } from "./make";
import fc from "fast-check";
import type { FollowUp } from "@/core/workflow/follow-ups/table";
import type { Mover } from "@/core/workflow/requirement";
import { TRIGGER_KINDS, type Trigger } from "@/core/workflow/trigger";
import type { Transition, Workflow } from "@/core/workflow/workflow";
import { OUTCOMES, PLAIN_STATE, STATE_KINDS, type State } from "@/core/workflow/state";
import { anyCondition, VOCABULARY } from "./conditions";
import type { Requirement } from "@/core/workflow/requirements/table";

const anyWords = fc.constantFrom(
  "Build",
  "Waits & queues",
  "Prüfung",
  "検査 <1>",
  'say "so"',
  "a\nb".replace("\n", " "),
  "Zurück",
  "]]>",
  "100 % done",
);

const anyRequirement: fc.Arbitrary<Requirement> = fc.oneof(
  fc.constantFrom<Requirement>(
    { kind: "checklist" },
    { kind: "no blocker" },
    { kind: "comment" },
    { kind: "reason" },
    { kind: "sub-tasks finished" },
    { kind: "change merged", checks: true },
    { kind: "filled", field: "estimate" },
    { kind: "filled", field: "own.f-value" },
  ),
  fc.record({
    kind: fc.constant("approvals" as const),
    count: fc.integer({ min: 1, max: 5 }),
    role: fc.constantFrom(null, "lead" as const),
    teamId: fc.constantFrom(null, "ticketing"),
  }),
  fc.record({
    kind: fc.constant("outcome" as const),
    allowed: fc.subarray([...OUTCOMES], { minLength: 1 }),
  }),
  anyCondition(VOCABULARY).map((condition): Requirement => ({ kind: "condition", condition })),
);

const anyFollowUp: fc.Arbitrary<FollowUp> = fc.oneof(
  fc.constantFrom<FollowUp>(
    { kind: "put on top" },
    { kind: "finish duplicates" },
    { kind: "set field", change: { field: "own", fieldId: "f-value", value: 3 } },
    { kind: "assign", to: { kind: "previous assignee" } },
  ),
  anyWords.map((text): FollowUp => ({
    kind: "tell",
    whom: [{ kind: "leads" }, { kind: "team", teamId: "ticketing" }],
    text,
  })),
  anyWords.map((text): FollowUp => ({ kind: "comment", text })),
);

const anyTrigger: fc.Arbitrary<Trigger> = fc.constantFrom(...TRIGGER_KINDS).map((kind): Trigger => {
  if (kind === "deployed") return { kind, environment: "production & more" };
  if (kind === "accepted") return { kind, by: "2" };
  if (kind === "days in state") return { kind, days: 2.5 };
  if (kind === "linked ended") return { kind, way: "is waited for by", how: "delivered" };
  return kind === "date reached" ? { kind, field: "dueOn" } : { kind };
});

const anyMover: fc.Arbitrary<Mover> = fc.constantFrom<Mover>(
  { kind: "role", role: "lead" },
  { kind: "requester" },
  { kind: "team", teamId: "quayside" },
  { kind: "not the assignee" },
);

const policies = (prefix: string) =>
  fc
    .array(anyWords, { maxLength: 2 })
    .map((texts) => texts.map((text, i) => ({ id: `${prefix}-${i}`, text })));

/** Any workflow that can be stored, sensible as a process or not. */
export const anyWorkflow: fc.Arbitrary<Workflow> = fc.integer({ min: 1, max: 6 }).chain((n) => {
  const ids = Array.from({ length: n }, (_, i) => `state ${i} é`);
  const state = (i: number): fc.Arbitrary<State> =>
    fc.record({
      ...(Object.fromEntries(
        Object.entries(PLAIN_STATE).map(([key, value]) => [key, fc.constant(value)]),
      ) as { [K in keyof typeof PLAIN_STATE]: fc.Arbitrary<(typeof PLAIN_STATE)[K]> }),
      id: fc.constant(ids[i]),
      position: fc.constant(i),
      name: anyWords.map((w) => `${w} ${i}`),
      kind: fc.constantFrom(...STATE_KINDS),
      stage: fc.option(anyWords),
      teamId: fc.constantFrom(null, "ticketing"),
      expectedDays: fc.constantFrom(null, 1.5),
      limit: fc.constantFrom(null, atMost(3, true), {
        max: null,
        firm: false,
        min: 2,
        minFirm: true,
      }),
      entryPolicies: policies(`in${i}`),
      exitPolicies: policies(`out${i}`),
      outcomes: fc.subarray([...OUTCOMES]),
    });
  const transition = (i: number): fc.Arbitrary<Transition> =>
    fc.record({
      id: fc.constant(`move ${i}`),
      from: fc.option(fc.subarray(ids, { minLength: 1 })),
      to: fc.constantFrom(...ids),
      verb: anyWords,
      who: fc.array(anyMover, { maxLength: 2 }),
      requirements: fc.array(anyRequirement, { maxLength: 3 }),
      followUps: fc.array(anyFollowUp, { maxLength: 2 }),
      triggers: fc.array(anyTrigger, { maxLength: 2 }),
    });
  return fc.record({
    id: fc.constant("w"),
    name: anyWords,
    version: fc.nat(9),
    states: fc.tuple(...ids.map((_, i) => state(i))) as unknown as fc.Arbitrary<State[]>,
    transitions: fc
      .integer({ min: 0, max: 6 })
      .chain((m) =>
        fc.tuple(...Array.from({ length: m }, (_, i) => transition(i))),
      ) as unknown as fc.Arbitrary<Transition[]>,
  });
});
