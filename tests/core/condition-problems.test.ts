import {
  asksPromise,
  asksWhoLooks,
  comparisonProblem,
  comparisonsIn,
  conditionSchema,
  factsIn,
  levelsIn,
  MOST_COMPARISONS,
  type Comparison,
  type Condition,
  type ConditionValue,
  type Operator,
} from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { parseCel } from "@/core/condition/cel-parse";
import { VOCABULARY } from "./setup/conditions";

const compare = (fact: FactName, op: Operator, value: ConditionValue | null): Comparison => ({
  kind: "compare",
  fact,
  op,
  value,
});

test.each<[FactName, Operator, ConditionValue | null]>([
  ["severity", "is set", null],
  ["title", "counts at least", 0],
  ["labels", "counts at most", 100_000],
  ["estimate", "is", -2.5],
  ["blocked", "is", false],
  ["dueOn", "at most", "2026-02-28"],
  ["dueOn", "at least", { day: -3 }],
  ["dueOn", "is", { fact: "own.date.f-sailing" }],
  ["title", "is", { fact: "own.text.f-note" }],
  ["title", "contains", "a"],
  ["labels", "lacks", "a"],
  ["links", "contains", "duplicates"],
  ["teamId", "one of", { who: "my teams" }],
  ["severity", "none of", ["major", "minor"]],
  ["assigneeId", "is not", { who: "me" }],
  ["sprintId", "is", { sprint: "previous" }],
  ["typeId", "is", "bug"],
])("%s %s %j makes sense", (fact, op, value) => {
  expect(comparisonProblem(compare(fact, op, value))).toBeNull();
  expect(conditionSchema.safeParse(compare(fact, op, value)).success).toBe(true);
});

test.each<[FactName, Operator, ConditionValue | null, string]>([
  ["estimate", "contains", "a", "“estimate” cannot be asked with “contains”."],
  ["priority", "is empty", null, "“priority” cannot be asked with “is empty”."],
  ["severity", "is set", "major", "“is set” takes no value."],
  ["severity", "is", null, "“severity is” needs a value."],
  ["estimate", "is", { fact: "estimate" }, "“estimate” is compared with itself."],
  [
    "title",
    "contains",
    { fact: "description" },
    "“title contains” cannot be asked of another fact.",
  ],
  ["assigneeId", "is", { fact: "typeId" }, "“assignee” and “type” are not the same kind of thing."],
  ["labels", "counts at least", -1, "A size is a whole number from 0 to 100,000."],
  ["labels", "counts at least", 1.5, "A size is a whole number from 0 to 100,000."],
  ["labels", "counts at most", 100_001, "A size is a whole number from 0 to 100,000."],
  ["labels", "counts at most", "3", "A size is a whole number from 0 to 100,000."],
  ["estimate", "is", "3", "“estimate” is compared with a number."],
  ["estimate", "is", Infinity, "“estimate” is compared with a number."],
  ["blocked", "is", "yes", "“blocked” is true or false."],
  ["dueOn", "is", "tomorrow", "“due date” is compared with a date or a day counted from today."],
  ["dueOn", "is", "2026-02-30", "“due date” is compared with a date or a day counted from today."],
  ["dueOn", "is", 20, "“due date” is compared with a date or a day counted from today."],
  [
    "dueOn",
    "is",
    ["2026-02-01"],
    "“due date” is compared with a date or a day counted from today.",
  ],
  ["dueOn", "is", { who: "me" }, "“due date” is compared with a date or a day counted from today."],
  ["title", "contains", "", "“title” is compared with a text."],
  ["title", "contains", 3, "“title” is compared with a text."],
  ["labels", "contains", ["a"], "“labels” is compared with a text."],
  [
    "links",
    "contains",
    "blocks",
    "links is never “blocks”. It is duplicates, relates to, came from, waits for, found in, tested by.",
  ],
  ["teamId", "one of", { who: "me" }, "“team” is compared with a list."],
  ["assigneeId", "one of", { who: "my teams" }, "“assignee” is compared with a list."],
  ["severity", "one of", [], "“severity one of” needs at least one value."],
  ["typeId", "none of", ["bug", ""], "“type none of” needs at least one value."],
  ["typeId", "one of", "bug", "“type one of” needs at least one value."],
  [
    "severity",
    "one of",
    ["major", "awful"],
    "severity is never “awful”. It is minor, moderate, major, critical.",
  ],
  ["teamId", "is", { who: "me" }, "“team” cannot be you."],
  ["assigneeId", "is", { who: "my teams" }, "“assignee” cannot be you."],
  ["releaseId", "is", { sprint: "next" }, "“release” is no sprint."],
  ["sprintId", "is", { sprint: "last three" }, "“sprint” is one of them; it cannot be all."],
  ["sprintId", "one of", { sprint: "next" }, "“sprint” is compared with a list."],
  ["typeId", "is", "", "“type” is compared with one value."],
  ["typeId", "is", ["bug"], "“type” is compared with one value."],
  ["typeId", "is", 3, "“type” is compared with one value."],
])("%s %s %j makes none: %s", (fact, op, value, problem) => {
  expect(comparisonProblem(compare(fact, op, value))).toBe(problem);
  expect(conditionSchema.safeParse(compare(fact, op, value)).success).toBe(false);
});

test("a stored condition says what is wrong in it", () => {
  const read = conditionSchema.safeParse(compare("dueOn", "is", "tomorrow"));
  expect(JSON.stringify(read.error?.issues)).toContain("a day counted from today");
});

describe("what is in a condition", () => {
  const mine = compare("assigneeId", "is", { who: "me" });
  const bug = compare("typeId", "is", "bug");
  const same = compare("assigneeId", "is", { fact: "reviewerId" });
  const condition: Condition = {
    kind: "all",
    of: [bug, { kind: "not", of: { kind: "any", of: [mine, same] } }],
  };

  test("whether it is about whoever looks", () => {
    expect(asksWhoLooks(condition)).toBe(true);
    expect(asksWhoLooks({ kind: "not", of: mine })).toBe(true);
    expect(asksPromise({ kind: "not", of: compare("promise", "is", "missed") })).toBe(true);
    expect(asksPromise(bug)).toBe(false);
    expect(asksWhoLooks({ kind: "not", of: bug })).toBe(false);
    expect(asksWhoLooks({ kind: "any", of: [bug, same] })).toBe(false);
    expect(asksWhoLooks(compare("severity", "is empty", null))).toBe(false);
  });

  test("the facts that it asks for, those that others are compared with among them", () => {
    expect([...factsIn(condition)].sort()).toEqual(["assigneeId", "reviewerId", "typeId"]);
    expect([...factsIn({ kind: "not", of: bug })]).toEqual(["typeId"]);
  });

  test("how much, and how deep", () => {
    expect(comparisonsIn(condition)).toBe(3);
    expect(levelsIn(condition)).toBe(3);
    expect(comparisonsIn(bug)).toBe(1);
    expect(levelsIn(bug)).toBe(0);
  });

  test("at most a hundred comparisons, in a structure and in a text", () => {
    const many = (n: number): Condition => ({ kind: "all", of: Array<Condition>(n).fill(bug) });
    const both = (n: number): Condition => ({ kind: "any", of: [many(50), many(n - 50)] });
    expect(conditionSchema.safeParse(both(MOST_COMPARISONS)).success).toBe(true);
    expect(conditionSchema.safeParse(both(MOST_COMPARISONS + 1)).success).toBe(false);
    const text = (n: number) => Array<string>(n).fill("item.blocked").join(" && ");
    expect(parseCel(text(MOST_COMPARISONS), VOCABULARY).problem).toBeNull();
    expect(parseCel(text(MOST_COMPARISONS + 1), VOCABULARY).problem?.sentence).toContain(
      "at most 100 comparisons",
    );
  });

  test("eight groups inside each other are read, nine are not", () => {
    const nest = (n: number): Condition => (n === 0 ? bug : { kind: "not", of: nest(n - 1) });
    expect(conditionSchema.safeParse(nest(8)).success).toBe(true);
    expect(conditionSchema.safeParse(nest(9)).success).toBe(false);
  });
});

/** Texts that are no conditions, with where and what is wrong in them. */
test.each<[string, string]>([
  ["3", "A comparison is wanted here"],
  ['"a"', "A comparison is wanted here"],
  ["item.title.contains()", "takes one text"],
  ['item.title.contains("a", "b")', "takes one text"],
  ['["a"] in ["b"]', "“in” stands between a fact and a list."],
  ["3 == 4", "A fact is compared with a value or another fact"],
  ["item.severity > null", "Nothing is more or less than null."],
  ['size("a") > 3', "A fact of the item is wanted here"],
  ["has(other.title)", "A fact of the item is wanted here"],
  ['other.title == "a"', "wanted here"],
  ["item.type in [3]", "A list holds texts in quotation marks."],
  ["item.title == item.title.size()", "A fact is compared with a value or another fact"],
  ["item.due < day()", "wanted here"],
  ['item.due < day("1")', "whole number"],
  ['item.assignee == "Ines"', "No person is called “Ines”"],
  ['item.route == "West run"', "No choice is called “West run”"],
  ['item.state == "Sailing"', "No state is called “Sailing”"],
  ["item.zzz > 3", "An item has no “zzz”."],
])("%s: %s", (text, words) => {
  const { condition, problem } = parseCel(text, VOCABULARY);
  expect(condition).toBeNull();
  expect(problem?.sentence).toContain(words);
});

/** What is read in more than one way of writing. */
test.each<[string, Comparison]>([
  ["3 < item.estimate", compare("estimate", "more than", 3)],
  ["3 >= item.estimate", compare("estimate", "at most", 3)],
  ['"Bug" == item.type', compare("typeId", "is", "bug")],
  ["size(item.labels) > 1", compare("labels", "counts at least", 2)],
  ["size(item.labels) < 3", compare("labels", "counts at most", 2)],
  ["2 <= size(item.labels)", compare("labels", "counts at least", 2)],
  ["null != item.severity", compare("severity", "is set", null)],
  ["has(item.severity)", compare("severity", "is set", null)],
  ["item.blocked == true", compare("blocked", "is", true)],
  ["item.blocked != true", compare("blocked", "is", false)],
  ["item.sprint == previous_sprint", compare("sprintId", "is", { sprint: "previous" })],
  ['item.assignee == "noor"', compare("assigneeId", "is", "noor")],
  ['item.route == "Isle run"', compare("own.one of.f-route", "is", "isle")],
  ["  item.due == day(-1)  ", compare("dueOn", "is", { day: -1 })],
])("%s is read", (text, condition) =>
  expect(parseCel(text, VOCABULARY)).toEqual({ condition, problem: null }),
);
