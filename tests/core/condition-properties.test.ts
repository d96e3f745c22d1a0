import fc from "fast-check";
import { PROMISE_BANDS } from "@/core/item/promise-band";
import type { Condition } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import { simplify } from "@/core/condition/simplify";
import type { AskedItem } from "@/core/condition/facts";
import { conditionSentence } from "@/core/condition/sentence";
import { neverHolds } from "@/core/workflow/contradiction";
import { same } from "@/core/workflow/same";
import { conditionOf, queryOf } from "@/ui/condition/query";
import { computedFields } from "@/core/item/compute-fields";
import {
  anyComparison,
  anyCondition,
  anyCriteria,
  anyOutside,
  anyOwn,
  anyShown,
  OWN_FIELDS,
  VOCABULARY,
} from "./setup/conditions";
import { DAY, plainItem } from "./setup/make";
import { runs } from "./setup/runs";

const asker: Asker = {
  personId: "noor",
  teamIds: ["ticketing"],
  now: 10 * DAY,
  zone: "Europe/London",
  sprints: { current: "sp1", next: "sp2", previous: null, "last three": ["sp2"] },
};

/** Items of every shape that the vocabulary knows, many of their facts empty. */
const anyAlone: fc.Arbitrary<AskedItem> = fc
  .record({
    projectId: fc.constantFrom("project", "gate"),
    typeId: fc.constantFrom("bug", "story"),
    stateId: fc.constantFrom("s1", "s2", "s3", "s4"),
    stateKind: fc.constantFrom(
      "unstarted" as const,
      "waiting" as const,
      "working" as const,
      "finished" as const,
    ),
    title: fc.constantFrom("ticket", "the Pier", 'say "so"'),
    description: fc.constantFrom("", "Gate 3"),
    estimate: fc.option(fc.integer({ min: 0, max: 12 })),
    severity: fc.constantFrom(null, "minor" as const, "critical" as const),
    assigneeId: fc.constantFrom(null, "noor", "ivo"),
    reviewerId: fc.constantFrom(null, "ivo"),
    teamId: fc.constantFrom(null, "quayside", "ticketing"),
    place: fc.constantFrom(null, "the pier"),
    dueOn: fc.constantFrom(null, "1970-01-08", "1970-01-11", "2026-06-01"),
    returns: fc.nat(3),
    outcome: fc.constantFrom(null, "delivered" as const),
    sprintId: fc.constantFrom(null, "sp1", "sp2"),
    releaseId: fc.constantFrom(null, "r1"),
    labels: fc.subarray(["ticket", "Gate"]),
    parts: fc.subarray(["ticket", "Gate"]),
    own: anyOwn,
    outside: anyOutside,
    enteredStateAt: fc.integer({ min: 0, max: 10 }).map((n) => n * DAY),
  })
  .chain((change) =>
    fc.record({
      item: anyCriteria.map((criteria) => ({ ...plainItem, ...change, ...criteria })),
      computed: fc.constant(computedFields(OWN_FIELDS, { ...plainItem, ...change })),
      shown: anyShown,
      everIn: fc.subarray(["s1", "s2", "s3", "s4"]),
      links: fc.subarray(["duplicates", "relates to"] as const),
      children: fc.nat(3),
      openChildren: fc.nat(3),
      waitsFor: fc.nat(3),
      waitedFor: fc.nat(3),
      followers: fc.subarray(["noor", "ivo"]),
      votes: fc.integer({ min: -2, max: 5 }),
      level: fc.constantFrom(0, 1, 2),
      promise: fc.constantFrom(null, ...PROMISE_BANDS),
    }),
  );

/** The same with what stands under and above them. */
const anyAsked: fc.Arbitrary<AskedItem> = fc
  .record({
    asked: anyAlone,
    children: fc.array(anyAlone, { maxLength: 2 }),
    parent: fc.array(anyAlone, { maxLength: 1 }),
  })
  .map(({ asked, ...relatives }) => ({ ...asked, relatives }));

const RUNS = { numRuns: runs(400) };

test("a simpler condition means the same, and is not simplified any further", () => {
  fc.assert(
    fc.property(anyCondition(VOCABULARY), anyAsked, (condition, asked) => {
      const simple = simplify(condition);
      expect(holds(simple, asked, asker)).toBe(holds(condition, asked, asker));
      expect(simplify(simple)).toEqual(simple);
    }),
    RUNS,
  );
});

test("the builder's groups and rules are the same condition", () => {
  fc.assert(
    fc.property(anyCondition(VOCABULARY), anyAsked, (condition, asked) => {
      const back = conditionOf(queryOf(condition), VOCABULARY);
      expect(holds(back, asked, asker)).toBe(holds(condition, asked, asker));
    }),
    RUNS,
  );
});

test("every part of the builder keeps its own place as its id", () => {
  fc.assert(
    fc.property(anyCondition(VOCABULARY), (condition) => {
      const ids: string[] = [];
      const walk = (part: { id?: string; rules?: unknown[] }): void => {
        ids.push(part.id!);
        for (const rule of part.rules ?? []) walk(rule as { id?: string; rules?: unknown[] });
      };
      walk(queryOf(condition));
      expect(new Set(ids).size).toBe(ids.length);
    }),
    RUNS,
  );
});

test("what is said never to hold holds for no item at all", () => {
  // Two comparisons of one fact contradict each other often enough to tell.
  const pair = fc
    .tuple(anyComparison(VOCABULARY), anyComparison(VOCABULARY))
    .map(([a, b]): Condition => ({
      kind: "all",
      of: [
        a,
        {
          ...b,
          fact: a.fact,
          op: b.fact === a.fact ? b.op : a.op,
          value: b.fact === a.fact ? b.value : a.value,
        },
      ],
    }));
  let never = 0;
  fc.assert(
    fc.property(fc.oneof(pair, anyCondition(VOCABULARY)), anyAsked, (condition, asked) => {
      if (!neverHolds(condition)) return;
      never += 1;
      expect(holds(condition, asked, asker)).toBe(false);
    }),
    // As many as it takes to meet some, however few others are tried with.
    { numRuns: Math.max(RUNS.numRuns, 600) },
  );
  expect(never).toBeGreaterThan(0);
});

test("a negation is the opposite, for every item", () => {
  fc.assert(
    fc.property(anyCondition(VOCABULARY), anyAsked, (of, asked) =>
      expect(holds({ kind: "not", of }, asked, asker)).toBe(!holds(of, asked, asker)),
    ),
    RUNS,
  );
});

test("every condition has a sentence without a hole in it", () => {
  fc.assert(
    fc.property(anyCondition(VOCABULARY), (condition) => {
      const sentence = conditionSentence(condition, VOCABULARY);
      expect(sentence).not.toMatch(/undefined|null|NaN|\[object|  /);
      expect(sentence.split("(").length).toBe(sentence.split(")").length);
    }),
    RUNS,
  );
});

test("equal values are the same whatever the order of their properties, and others are not", () => {
  const value = fc.jsonValue({ maxDepth: 3 });
  const turned = (v: unknown): unknown =>
    Array.isArray(v)
      ? v.map(turned)
      : v && typeof v === "object"
        ? Object.fromEntries(
            Object.entries(v)
              .reverse()
              .map(([k, x]) => [k, turned(x)]),
          )
        : v;
  fc.assert(
    fc.property(value, value, (a, b) => {
      expect(same(a, turned(a))).toBe(true);
      expect(same(a, b)).toBe(JSON.stringify(a) === JSON.stringify(b) || same(b, a));
    }),
    RUNS,
  );
  expect(same({ a: undefined }, {})).toBe(false);
  expect(same([1, 2], [2, 1])).toBe(false);
  expect(same({ 0: "a" }, ["a"])).toBe(false);
});
