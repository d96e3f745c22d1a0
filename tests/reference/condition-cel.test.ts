import { celFunc, celMethod, CelScalar, celEnv, parse, plan } from "@bufbuild/cel";
import fc from "fast-check";
import { factsIn, type Condition } from "@/core/condition/condition";
import { dateOf, holds, type Asker } from "@/core/condition/evaluate";
import { factOf, type AskedItem, type FactName } from "@/core/condition/facts";
import { printCel } from "@/core/condition/cel-print";
import { factText, factsOffered, labelOf } from "@/core/condition/vocabulary";
import { computedFields } from "@/core/item/compute-fields";
import { anyCondition, anyOutside, anyOwn, OWN_FIELDS, VOCABULARY } from "../core/setup/conditions";
import { DAY, plainItem } from "../core/setup/make";
import { runs } from "@tests/core/setup/runs";

/*
 * The text form against the language it is a subset of: @bufbuild/cel 0.6.1, an implementation of
 * cel-spec, evaluates the printed text on the same items. `has_words` and `day` are functions that
 * the language lets its host define. Where a fact has no value CEL answers an ordering with an
 * error ("no such overload") and this product with false; such cases are left out here and stand in
 * the core tests.
 */

const asker: Asker = {
  personId: "noor",
  teamIds: ["ticketing"],
  now: 10 * DAY,
  zone: "UTC",
  sprints: {
    current: "sp1",
    next: "sp2",
    previous: "sp9",
    "after next": "sp9",
    "last three": ["sp1"],
  },
};
const environment = celEnv({
  funcs: [
    celFunc("day", [CelScalar.INT], CelScalar.STRING, (n) => dateOf({ day: Number(n) }, asker)),
    celMethod(
      "has_words",
      CelScalar.STRING,
      [CelScalar.STRING],
      CelScalar.BOOL,
      function (this: string, words: string) {
        return this.toLowerCase().includes(words.toLowerCase());
      },
    ),
  ],
});

const anyAlone: fc.Arbitrary<AskedItem> = fc
  .record({
    projectId: fc.constantFrom("project", "gate"),
    typeId: fc.constantFrom("bug", "story"),
    stateId: fc.constantFrom("s1", "s2", "s3", "s4"),
    estimate: fc.integer({ min: 0, max: 9 }),
    severity: fc.constantFrom("minor" as const, "major" as const),
    assigneeId: fc.constantFrom("noor", "ivo"),
    reviewerId: fc.constantFrom(null, "ivo"),
    teamId: fc.constantFrom("quayside", "ticketing"),
    dueOn: fc.constantFrom("1970-01-08", "1970-01-20"),
    place: fc.constantFrom("the pier", "Gate 3"),
    howToTest: fc.constant("Look."),
    description: fc.constant("A ticket"),
    blockedSince: fc.constant(4 * DAY),
    outcome: fc.constant("delivered" as const),
    returns: fc.nat(3),
    sprintId: fc.constantFrom("sp1", "sp2"),
    releaseId: fc.constant("r1"),
    labels: fc.subarray(["ticket", "Gate"]),
    parts: fc.subarray(["ticket", "Gate"]),
    own: anyOwn,
    outside: anyOutside,
  })
  .map((change) => ({
    item: {
      ...plainItem,
      ...change,
    },
    everIn: ["s1", "s3"],
    links: ["relates to"],
    children: 2,
    openChildren: 1,
    waitsFor: 2,
    waitedFor: 0,
    followers: change.estimate > 2 ? ["noor", "ivo"] : ["ivo"],
    votes: change.returns - 1,
    level: change.typeId === "bug" ? 1 : 2,
    promise: change.estimate > 3 ? "at risk" : null,
    computed: computedFields(OWN_FIELDS, {
      estimate: change.estimate,
      returns: change.returns,
      own: change.own,
    }),
    shown: (change.estimate > 2
      ? { "f-below": 3, "f-ends": "1970-01-12", "f-above": "gate" }
      : {}) as AskedItem["shown"],
  }));

const anyAsked: fc.Arbitrary<AskedItem & Required<Pick<AskedItem, "relatives">>> = fc
  .record({
    asked: anyAlone,
    children: fc.array(anyAlone, { maxLength: 2 }),
    parent: fc.array(anyAlone, { maxLength: 1 }),
  })
  .map(({ asked, ...relatives }) => ({ ...asked, relatives }));

/** The item as CEL sees it: what is chosen from the project's things is its name. */
function celItem(asked: AskedItem): Record<string, unknown> {
  return Object.fromEntries(
    factsOffered(VOCABULARY).map((name) => {
      const { of, options } = factOf(name);
      const value = of(asked, asker);
      const named = (id: string) =>
        options !== null && !Array.isArray(options) ? labelOf(name, id, VOCABULARY) : id;
      return [
        factText(name, VOCABULARY),
        typeof value === "string" ? named(value) : Array.isArray(value) ? value.map(named) : value,
      ];
    }),
  );
}

test("CEL gives the printed text the same meaning", () => {
  let compared = 0;
  fc.assert(
    fc.property(anyCondition(VOCABULARY), anyAsked, (condition: Condition, asked) => {
      const text = printCel(condition, VOCABULARY);
      const names = (id: string) => labelOf("assigneeId", id, VOCABULARY);
      const answer = plan(
        environment,
        parse(text),
      )({
        item: celItem(asked) as never,
        children: asked.relatives.children.map(celItem) as never,
        parent: asked.relatives.parent.map(celItem) as never,
        me: names("noor"),
        current_sprint: "Sprint 1",
        next_sprint: "Sprint 2",
        previous_sprint: "none such",
        after_next_sprint: "none such",
        last_three_sprints: ["Sprint 1"] as never,
        my_teams: asker.teamIds.map((t) => labelOf("teamId", t, VOCABULARY)) as never,
      });
      // Only an ordering against a fact without a value may be an error.
      if (typeof answer !== "boolean") {
        const all = [asked, ...asked.relatives.children, ...asked.relatives.parent];
        const empty = (f: FactName) => all.some((one) => factOf(f).of(one, asker) === null);
        expect([...factsIn(condition)].some(empty)).toBe(true);
        return;
      }
      compared += 1;
      expect({ text, answer }).toEqual({ text, answer: holds(condition, asked, asker) });
    }),
    { numRuns: runs(1000) },
  );
  expect(compared).toBeGreaterThan(runs(1000) * 0.8);
});
