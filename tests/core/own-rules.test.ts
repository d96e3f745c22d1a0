import fc from "fast-check";
import { DAY, MINUTE } from "@/core/calendar/instant";
import { concernsTogether } from "@/core/alerts/concern";
import { happenedIn } from "@/core/alerts/happened";
import {
  NEW_OWN_RULE,
  ownRuleSchema,
  stepsMeant,
  type Doer,
  type OwnRule,
  type StepDoer,
} from "@/core/alerts/own-rule";
import { ownRuleSentence } from "@/core/alerts/own-rule-words";
import { trialAlerts, trialWords } from "@/core/alerts/trial";
import { looksAround, type Condition } from "@/core/condition/condition";
import type { ItemEvent } from "@/core/item/event";

const RULE = NEW_OWN_RULE;
const URGENT: Condition = { kind: "compare", fact: "priority", op: "is", value: "urgent" };

const event = (seq: number, kind: string, more: object = {}): ItemEvent =>
  ({
    itemId: "i",
    seq,
    at: 0,
    actorId: "noor",
    cause: "person",
    commandId: "c",
    kind,
    ...more,
  }) as unknown as ItemEvent;
const STEPS = [
  event(1, "changed", { field: "priority", old: "normal", new: "urgent" }),
  event(2, "own changed", { field: "berth", old: null, new: "north" }),
  event(3, "changed", { field: "dueOn", old: null, new: "2026-01-02" }),
  event(4, "blocked", { new: { blockId: "b", cause: "fog" } }),
];
const unknown = () => ({ ofReview: false, ofTest: false });
const happened = happenedIn(STEPS, unknown);
const meant = (
  rule: Partial<OwnRule>,
  doer: StepDoer | null = { personId: "noor", cause: "person" },
) =>
  stepsMeant(
    { ...RULE, ...rule },
    {
      happened,
      doerOf: () => doer,
      membersOf: (team) => (team === "quayside" ? ["noor", "ivo"] : []),
    },
  );

describe("what a rule of one's own is about", () => {
  test("anything, some kinds of what happens, some fields of what else changes", () => {
    expect(meant({})).toEqual([1, 2, 3, 4]);
    expect(meant({ happens: ["blocked", "due changed"] })).toEqual([3, 4]);
    expect(meant({ happens: ["changed"] })).toEqual([1, 2]);
    expect(meant({ happens: ["changed"], fields: ["own.berth"] })).toEqual([2]);
    expect(meant({ happens: ["changed", "blocked"], fields: ["priority"] })).toEqual([1, 4]);
    expect(meant({ happens: ["finished"] })).toEqual([]);
  });

  test.each<[Doer, StepDoer | null, boolean]>([
    [{ kind: "people", ids: ["noor"] }, { personId: "noor", cause: "person" }, true],
    [{ kind: "people", ids: ["ivo"] }, { personId: "noor", cause: "person" }, false],
    [{ kind: "people", ids: ["noor"] }, { personId: null, cause: "requester" }, false],
    // What somebody's move made the process do, the process did.
    [{ kind: "people", ids: ["noor"] }, { personId: "noor", cause: "follow-up" }, false],
    [{ kind: "teams", ids: ["quayside"] }, { personId: "ivo", cause: "person" }, true],
    [{ kind: "teams", ids: ["platform"] }, { personId: "ivo", cause: "person" }, false],
    [{ kind: "process" }, { personId: "noor", cause: "trigger" }, true],
    [{ kind: "process" }, { personId: "noor", cause: "person" }, false],
    [{ kind: "process" }, null, true],
    [{ kind: "requesters" }, { personId: null, cause: "requester" }, true],
    [{ kind: "requesters" }, { personId: null, cause: "outside" }, false],
    [{ kind: "anybody" }, null, true],
  ])("by %j, done by %j: %s", (by, doer, is) => {
    expect(meant({ by }, doer).length > 0).toBe(is);
  });

  test("types, people and conditions need a project; fields need what else changes", () => {
    const problem = (rule: Partial<OwnRule>) =>
      ownRuleSchema.safeParse({ ...RULE, ...rule }).error?.issues[0]?.message ?? null;
    expect(problem({})).toBeNull();
    expect(problem({ condition: URGENT })).toMatch(/choose one first/);
    expect(problem({ typeIds: ["bug"] })).toMatch(/choose one first/);
    expect(problem({ by: { kind: "teams", ids: ["t"] } })).toMatch(/choose one first/);
    expect(problem({ condition: URGENT, projectKey: "TIX" })).toBeNull();
    expect(problem({ fields: ["priority"] })).toMatch(/something else about it changes/);
    expect(
      problem({
        projectKey: "TIX",
        condition: { kind: "compare", fact: "promise", op: "is", value: "late" },
      }),
    ).not.toBeNull();
  });

  test("it is said as a sentence", () => {
    const names = {
      project: () => "Ticket app",
      type: (id: string) => ({ bug: "Bug", story: "Story" })[id]!,
      person: () => "Noor Bakri",
      team: () => "Quayside",
      field: () => "priority",
      condition: () => "the priority is urgent",
    };
    expect(ownRuleSentence(RULE, names)).toBe("Any item: anything happens to it");
    expect(
      ownRuleSentence(
        {
          ...RULE,
          projectKey: "TIX",
          typeIds: ["bug", "story"],
          happens: ["sent back", "changed"],
          fields: ["priority"],
          by: { kind: "people", ids: ["noor"] },
          condition: URGENT,
        },
        names,
      ),
    ).toBe(
      "Bug or story in Ticket app: it is sent back or its priority changes, by Noor Bakri, and the priority is urgent",
    );
  });

  test("merely following is no reason beside a rule of one's own", () => {
    const told = concernsTogether([
      new Map([["ivo", { rules: ["follows"], seqs: [4] }]]),
      new Map([["ivo", { rules: ["0198"], seqs: [2, 4] }]]),
    ]);
    expect(told.get("ivo")).toEqual({ rules: ["0198"], seqs: [2, 4] });
  });

  test("a condition that asks of other items looks around; one that asks of it alone does not", () => {
    expect(looksAround(URGENT)).toBe(false);
    const children: Condition = {
      kind: "compare",
      fact: "openChildren",
      op: "more than",
      value: 0,
    };
    expect(looksAround({ kind: "any", of: [URGENT, { kind: "not", of: children }] })).toBe(true);
  });
});

describe("a trial", () => {
  test("what follows within five minutes, fifteen of the first, is one alert", () => {
    const at = (minutes: number, itemId = "a") => ({
      itemId,
      at: minutes * MINUTE,
      seqs: [minutes],
    });
    const alerts = trialAlerts([at(30), at(0), at(4), at(8, "b"), at(9), at(13), at(16)]);
    expect(alerts.map(({ itemId, moments }) => [itemId, moments.map((m) => m.seqs[0])])).toEqual([
      ["a", [30]],
      ["a", [16]],
      ["a", [0, 4, 9, 13]],
      ["b", [8]],
    ]);
  });

  test("nothing is lost by joining, and no alert is longer than it may be", () => {
    const moment = fc.record({
      itemId: fc.constantFrom("a", "b", "c"),
      at: fc.integer({ min: 0, max: 200 }).map((n) => n * MINUTE),
      seqs: fc.constant([1]),
    });
    fc.assert(
      fc.property(fc.array(moment, { maxLength: 60 }), (moments) => {
        const alerts = trialAlerts(moments);
        expect(alerts.flatMap((one) => one.moments)).toHaveLength(moments.length);
        for (const { firstAt, lastAt } of alerts)
          expect(lastAt - firstAt).toBeLessThanOrEqual(15 * MINUTE);
      }),
    );
  });

  test("says how many, and how often that is", () => {
    const now = 100 * DAY;
    expect(trialWords(14, { now, since: now - 30 * DAY })).toBe(
      "You would have got 14 in the last 30 days, about 3 a week.",
    );
    expect(trialWords(2, { now, since: now - 30 * DAY })).toMatch(/less than one a week/);
    expect(trialWords(0, { now, since: now - 30 * DAY })).toBe(
      "You would have got none in the last 30 days.",
    );
    expect(trialWords(9, { now, since: now - DAY })).toBe(
      "You would have got 9 in the last 1 day.",
    );
  });
});
