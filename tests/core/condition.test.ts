import fc from "fast-check";
import { conditionSchema, type Condition } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import { completions } from "@/core/condition/complete";
import { parseCel } from "@/core/condition/cel-parse";
import { printCel } from "@/core/condition/cel-print";
import { simplify } from "@/core/condition/simplify";
import { conditionSentence } from "@/core/condition/sentence";
import type { ItemSnapshot } from "@/core/item/fields";
import { anyCondition, VOCABULARY } from "./setup/conditions";
import { DAY, plainItem } from "./setup/make";
import { runs } from "./setup/runs";

const item = (change: Partial<ItemSnapshot> = {}): ItemSnapshot => ({
  ...plainItem,
  ...change,
});
const asked = (change: Partial<ItemSnapshot> = {}, more: Partial<AskedItem> = {}): AskedItem => ({
  item: item(change),
  everIn: ["s1"],
  links: [],
  children: 0,
  openChildren: 0,
  waitsFor: 0,
  waitedFor: 0,
  followers: [],
  votes: 0,
  promise: null,
  level: 1,
  computed: {},
  shown: {},
  ...more,
});
const noor: Asker = { personId: "noor", teamIds: ["ticketing"], now: 10 * DAY, zone: "UTC" };
const read = (text: string) => {
  const parsed = parseCel(text, VOCABULARY);
  if (parsed.problem) throw new Error(`${parsed.problem.at}: ${parsed.problem.sentence}`);
  return parsed.condition;
};

describe("a condition holds", () => {
  test.each<[string, AskedItem, boolean]>([
    ['item.type == "Bug"', asked({ typeId: "bug" }), true],
    [
      'item.type in ["Bug", "Story"] && item.estimate > 3',
      asked({ typeId: "bug", estimate: 5 }),
      true,
    ],
    ["item.estimate > 3", asked(), false],
    ["!(item.estimate > 3)", asked(), true],
    ["item.estimate != 3", asked(), true],
    ["item.estimate == null", asked(), true],
    ["item.assignee == me", asked({ assigneeId: "noor" }), true],
    ["item.assignee == me", asked({ assigneeId: "ivo" }), false],
    ["item.team in my_teams", asked({ teamId: "ticketing" }), true],
    ["item.days_in_state >= 10", asked(), true],
    ["item.days_in_state > 10", asked(), false],
    ["item.due < day(0)", asked({ dueOn: "1970-01-10" }), true],
    ["item.due <= day(-1)", asked({ dueOn: "1970-01-10" }), true],
    ["item.due < day(0)", asked(), false],
    ['"Building" in item.was_in', asked({}, { everIn: ["s1", "s2"] }), true],
    ['item.title.has_words("TICKET")', asked(), true],
    [
      "item.blocked",
      asked({ openBlockers: [{ id: "b", cause: "storm", waitingFor: null, since: 0 }] }),
      true,
    ],
    ["item.open_children == 0 && item.children > 0", asked({}, { children: 2 }), true],
    ['item.title.startsWith("No ")', asked({ title: "No ticket" }), true],
    ['item.title.startsWith("no ")', asked({ title: "No ticket" }), false],
    ['item.title.endsWith("ket")', asked({ title: "No ticket" }), true],
    ['item.title.contains("Ticket")', asked({ title: "No ticket" }), false],
    ['!item.place.contains("pier")', asked({ place: null }), true],
    ["has(item.severity)", asked(), false],
    ["has(item.severity)", asked({ severity: "major" }), true],
    ["size(item.labels) > 1", asked({ labels: ["a", "b"] }), true],
    ["item.labels.size() == 1", asked({ labels: ["a", "b"] }), false],
    ["size(item.labels) != 1", asked({ labels: ["a", "b"] }), true],
    ["0 < size(item.was_in)", asked(), true],
    ["size(item.title) == 2", asked({ title: "😀é" }), true],
    ["item.assignee == item.reviewer", asked({ assigneeId: "ivo", reviewerId: "ivo" }), true],
    ["item.assignee == item.reviewer", asked({ assigneeId: "ivo" }), false],
    ["item.assignee == item.reviewer", asked(), true],
    ["item.assignee != item.reviewer", asked(), false],
    ["item.days_in_state < item.days_since_created", asked({ enteredStateAt: 2 * DAY }), true],
    ["item.estimate > item.remaining_hours", asked({ estimate: 3 }), false],
    [
      "item.blocked != false",
      asked({ openBlockers: [{ id: "b", cause: "storm", waitingFor: null, since: 0 }] }),
      true,
    ],
    ["item.blocked == false", asked(), true],
    ["// those that wait\nitem.blocked == false // so far", asked(), true],
    ["// nothing", asked(), true],
    ["item.estimate < 1e21", asked({ estimate: 3 }), true],
    ["true", asked(), true],
    ["false", asked(), false],
  ])("%s", (text, about, expected) => expect(holds(read(text), about, noor)).toBe(expected));

  test("for somebody without an account nobody is me", () => {
    expect(holds(read("item.assignee == me"), asked(), { ...noor, personId: null })).toBe(false);
  });
});

describe("its text and its structure", () => {
  test("are the same condition, whatever it is", () => {
    fc.assert(
      fc.property(anyCondition(VOCABULARY), (condition) => {
        expect(parseCel(printCel(condition, VOCABULARY), VOCABULARY)).toEqual({
          condition: simplify(condition),
          problem: null,
        });
      }),
      { numRuns: runs(500) },
    );
  });

  test("give the same answers about any item", () => {
    const anyItem = fc.record({
      typeId: fc.constantFrom("bug", "story"),
      stateId: fc.constantFrom("s1", "s2", "s3", "s4"),
      estimate: fc.option(fc.integer({ min: 0, max: 9 })),
      severity: fc.constantFrom(null, "major" as const),
      assigneeId: fc.constantFrom(null, "noor", "ivo"),
      teamId: fc.constantFrom(null, "quayside"),
      dueOn: fc.constantFrom(null, "1970-01-08", "1970-01-20"),
      place: fc.constantFrom(null, "the pier"),
    });
    fc.assert(
      fc.property(anyCondition(VOCABULARY), anyItem, (condition, change) => {
        const back = parseCel(printCel(condition, VOCABULARY), VOCABULARY).condition!;
        expect(holds(back, asked(change), noor)).toBe(holds(condition, asked(change), noor));
      }),
      { numRuns: runs(500) },
    );
  });

  test("a structure survives being stored and checked", () => {
    fc.assert(
      fc.property(anyCondition(VOCABULARY), (condition) => {
        const { success, data } = conditionSchema.safeParse(JSON.parse(JSON.stringify(condition)));
        if (success) expect(data).toEqual(condition);
        else expect(depth(condition)).toBeGreaterThan(8);
      }),
    );
  });

  test.each([
    ["item.tipe == 1", 5, "Did you mean item.type?"],
    ['item.type = "Bug"', 10, "Compare with two signs"],
    ['item.type == "Bug', 13, "never closed"],
    ['item.type == "Boat"', 13, "No type is called “Boat”"],
    ['item.severity == "awful"', 17, "severity is never “awful”"],
    ["(item.estimate > 3", 0, "This ( is never closed."],
    ["item.estimate > 3)", 17, "closes nothing"],
    ["item.estimate >", 15, "missing at the end"],
    ["item.estimate > && item.blocked", 16, "missing before “&&”"],
    ['item.estimate > "many"', 16, "compared with a number"],
    ["item.type", 5, "compared with something"],
    ["item.estimate + 3 > 4", 14, "no meaning here"],
    ["item.blocked item.blocked", 13, "An operator such as &&"],
    ["item.blocked & item.blocked", 13, "Write &&"],
    ["item.priority == null", 17, "never empty"],
    ["item.due < day(1.5)", 15, "whole number"],
    ['size(item.title) > "3"', 19, "A size is compared with a whole number"],
    ["size(item.title) < 0", 19, "A size is a whole number from 0"],
    ["size() > 3", 0, "size() takes one fact"],
    ["has(item.priority)", 0, "never empty"],
    ["has(item.severty)", 9, "An item has no “severty”. Did you mean item.severity?"],
    ['item.type in ["Bug", "Boat"]', 21, "No type is called “Boat”"],
    ["item.title > 3", 11, "“title” cannot be asked with “more than”"],
    ['item.blocked && item.labels == "a"', 28, "cannot be asked"],
    ['"a" in item.title', 4, "Write item.title.contains"],
    ["item.estimate == item.title", 22, "not the same kind of thing"],
    ["item.state == item.type", 19, "not the same kind of thing"],
    ["item.blocked == item.blocked", 21, "compared with itself"],
    ["item.estimate > 99999999999999999999", 16, "A whole number goes up to"],
    ["item.estimate > 1e999", 16, "too large"],
    ['item.title == "a\\q"', 16, "no meaning in a text"],
    ['item.title == "\\ud800"', 15, "no meaning in a text"],
    ["// so\nitem.tipe == 1", 11, "An item has no"],
    ["item.title.matches(3)", 10, "“matches()” is not understood"],
    [`${"!(item.blocked && ".repeat(5)}item.blocked${")".repeat(5)}`, 0, "at most 8 groups"],
    ["nobody == me", 0, "“nobody” is not known"],
    ["item.links", 5, "compared with something"],
  ])("%s: wrong at character %i", (text, at, words) => {
    const { problem } = parseCel(text, VOCABULARY);
    expect(problem?.sentence).toContain(words);
    expect(problem?.at).toBe(at);
  });

  test("any text is read or refused with a place in it, never more", () => {
    const pieces = fc.constantFrom(
      "item",
      ".",
      "type",
      "==",
      '"Bug"',
      "(",
      ")",
      "!",
      "&&",
      "||",
      "in",
      "[",
      "]",
      ",",
      "3",
      "null",
      "day",
      "me",
      "&",
      "é",
      '"',
      "\n",
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(pieces).map((p) => p.join(" ")),
        ),
        (text) => {
          const { problem } = parseCel(text, VOCABULARY);
          if (problem) {
            expect(problem.at).toBeGreaterThanOrEqual(0);
            expect(problem.at).toBeLessThanOrEqual(text.length);
          }
        },
      ),
      { numRuns: runs(1000) },
    );
    expect(parseCel("x".repeat(5_000), VOCABULARY).problem?.sentence).toContain("at most 4,000");
  });
});

test.each<[Condition, string]>([
  [
    read('item.type == "Bug" && item.days_in_state > 3'),
    "the type is Bug and it has been in its state for more than 3 days",
  ],
  [
    read('item.state in ["Done (Main)", "Done (Tasks)"] || item.blocked'),
    "the state is Done (Main) or Done (Tasks) or it is blocked",
  ],
  [
    read('item.type == "Bug" && (item.severity == null || !(item.blocked || item.estimate >= 1))'),
    "the type is Bug and (the severity is not set or it is not so that (it is blocked or the estimate is at least 1))",
  ],
  [
    read("item.due <= day(-1) && item.due > day(7)"),
    "the due date is not after 1 day ago and the due date is after 7 days from today",
  ],
  [
    read('"Building" in item.was_in && item.times_returned >= 1'),
    "it was ever in Building and it was returned at least 1 time",
  ],
  [
    read('size(item.labels) >= 2 && item.title.startsWith("No")'),
    "it has at least 2 labels and the title begins with “No”",
  ],
  [
    read("item.assignee == item.reviewer && item.days_in_state < item.days_blocked"),
    "the assignee is the same as the reviewer and the days in state is less than the days blocked",
  ],
  [
    read("item.assignee == me && !(item.team in my_teams)"),
    "the assignee is me and the team is not my teams",
  ],
  [{ kind: "all", of: [] }, "it is any item"],
])("a plain sentence for each", (condition, sentence) =>
  expect(conditionSentence(condition, VOCABULARY)).toBe(sentence),
);

describe("completion", () => {
  const offered = (text: string) =>
    completions(text, text.length, VOCABULARY).map((c) => c.insert.trim());
  test("offers facts after the dot, operators after a fact, values after an operator", () => {
    expect(offered("item.days")).toEqual([
      "days_in_state",
      "days_since_created",
      "days_blocked",
      "days_ready",
    ]);
    expect(offered("item.blocked && item.sev")).toEqual(["severity"]);
    expect(offered("item.estimate ")).toContain(">=");
    expect(offered("item.state == ")).toContain('"Done (Tasks)"');
    expect(offered("item.assignee == ")).toEqual([
      "me",
      '"Noor Bakri"',
      '"Ivo Sandell"',
      "item.reviewer",
      "item.creator",
      "item.skipper",
      "null",
    ]);
    expect(offered('item.type in ["Bug", ')).toContain('"Story"');
    expect(offered('item.type == "Bug" ')).toEqual(["&&", "||"]);
  });
  test("what it offers after a whole comparison can be read", () => {
    expect(parseCel(`item.type == ${offered("item.type == ")[0]}`, VOCABULARY).problem).toBeNull();
  });
});

function depth(condition: Condition): number {
  if (condition.kind === "compare") return 0;
  return 1 + Math.max(0, ...(condition.kind === "not" ? [condition.of] : condition.of).map(depth));
}
