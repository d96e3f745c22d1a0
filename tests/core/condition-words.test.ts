import type { Comparison, ConditionValue, Condition, Operator } from "@/core/condition/condition";
import { parseCel } from "@/core/condition/cel-parse";
import { printCel } from "@/core/condition/cel-print";
import type { FactName } from "@/core/condition/facts";
import { conditionSentence } from "@/core/condition/sentence";
import { VOCABULARY } from "./setup/conditions";

const compare = (fact: FactName, op: Operator, value: ConditionValue | null): Comparison => ({
  kind: "compare",
  fact,
  op,
  value,
});
const blocked = compare("blocked", "is", true);
const aBug = compare("typeId", "is", "bug");

/** Each comparison with its text and its sentence, written by hand. */
const WORDS: [Comparison, string, string][] = [
  [aBug, 'item.type == "Bug"', "the type is Bug"],
  [compare("typeId", "is not", "bug"), 'item.type != "Bug"', "the type is not Bug"],
  [
    compare("typeId", "one of", ["bug", "story"]),
    'item.type in ["Bug", "Story"]',
    "the type is Bug or Story",
  ],
  [
    compare("stateId", "none of", ["s1", "s2", "s3"]),
    '!(item.state in ["Backlog", "Building", "Done (Main)"])',
    "the state is not Backlog, Building or Done (Main)",
  ],
  [compare("typeId", "one of", ["bug"]), 'item.type in ["Bug"]', "the type is Bug"],
  [compare("severity", "is set", null), "item.severity != null", "the severity is set"],
  [compare("severity", "is empty", null), "item.severity == null", "the severity is not set"],
  [compare("assigneeId", "is", { who: "me" }), "item.assignee == me", "the assignee is me"],
  [
    compare("teamId", "one of", { who: "my teams" }),
    "item.team in my_teams",
    "the team is my teams",
  ],
  [
    compare("sprintId", "is", { sprint: "current" }),
    "item.sprint == current_sprint",
    "the sprint is the current one",
  ],
  [
    compare("sprintId", "is not", { sprint: "next" }),
    "item.sprint != next_sprint",
    "the sprint is not the next one",
  ],
  [
    compare("sprintId", "is", { sprint: "after next" }),
    "item.sprint == after_next_sprint",
    "the sprint is the one after next",
  ],
  [
    compare("sprintId", "one of", { sprint: "last three" }),
    "item.sprint in last_three_sprints",
    "the sprint is one of the last three",
  ],
  [
    compare("assigneeId", "is not", { fact: "reviewerId" }),
    "item.assignee != item.reviewer",
    "the assignee is not the same as the reviewer",
  ],
  [compare("dueOn", "is", { day: 0 }), "item.due == day(0)", "the due date is today"],
  [compare("dueOn", "less than", { day: 0 }), "item.due < day(0)", "the due date is before today"],
  [
    compare("dueOn", "at least", { day: 1 }),
    "item.due >= day(1)",
    "the due date is not before 1 day from today",
  ],
  [
    compare("dueOn", "more than", { day: -2 }),
    "item.due > day(-2)",
    "the due date is after 2 days ago",
  ],
  [
    compare("dueOn", "at most", "2026-11-30"),
    'item.due <= "2026-11-30"',
    "the due date is not after 2026-11-30",
  ],
  [blocked, "item.blocked", "it is blocked"],
  [compare("blocked", "is", false), "!item.blocked", "it is not blocked"],
  [compare("own.yes or no.f-storm", "is", true), "item.storm", "Storm is yes"],
  [compare("own.yes or no.f-storm", "is", false), "!item.storm", "Storm is no"],
  [
    compare("title", "contains", "ticket"),
    'item.title.has_words("ticket")',
    "the title contains “ticket”",
  ],
  [
    compare("title", "contains exactly", "ticket"),
    'item.title.contains("ticket")',
    "the title contains exactly “ticket”",
  ],
  [
    compare("title", "lacks", "ticket"),
    '!item.title.has_words("ticket")',
    "the title does not contain “ticket”",
  ],
  [
    compare("title", "starts with", "No"),
    'item.title.startsWith("No")',
    "the title begins with “No”",
  ],
  [
    compare("title", "ends with", "gate"),
    'item.title.endsWith("gate")',
    "the title ends with “gate”",
  ],
  [
    compare("title", "counts at most", 1),
    "size(item.title) <= 1.0",
    "the title has at most 1 letter",
  ],
  [
    compare("title", "counts at least", 80),
    "size(item.title) >= 80.0",
    "the title has at least 80 letters",
  ],
  [
    compare("title", "is", "No\u2028gate"),
    'item.title == "No\\u2028gate"',
    "the title is “No\u2028gate”",
  ],
  [
    compare("title", "is", "No\u2029gate"),
    'item.title == "No\\u2029gate"',
    "the title is “No\u2029gate”",
  ],
  [compare("labels", "contains", "gate"), '"gate" in item.labels', "the labels contain “gate”"],
  [
    compare("labels", "lacks", "gate"),
    '!("gate" in item.labels)',
    "the labels do not contain “gate”",
  ],
  [compare("labels", "counts at most", 1), "size(item.labels) <= 1.0", "it has at most 1 label"],
  [
    compare("own.many of.f-quays", "counts at least", 2),
    "size(item.quays) >= 2.0",
    "of Quays it has at least 2",
  ],
  [
    compare("own.many of.f-quays", "contains", "q1"),
    '"Quay 1" in item.quays',
    "the Quays contain Quay 1",
  ],
  [compare("everIn", "contains", "s2"), '"Building" in item.was_in', "it was ever in Building"],
  [compare("everIn", "lacks", "s2"), '!("Building" in item.was_in)', "it was never in Building"],
  [
    compare("everIn", "counts at least", 1),
    "size(item.was_in) >= 1.0",
    "it was ever in at least 1 state",
  ],
  [
    compare("everIn", "counts at most", 3),
    "size(item.was_in) <= 3.0",
    "it was ever in at most 3 states",
  ],
  [
    compare("links", "contains", "duplicates"),
    '"duplicates" in item.links',
    "a link says that it duplicates another item",
  ],
  [
    compare("links", "lacks", "duplicates"),
    '!("duplicates" in item.links)',
    "no link says that it duplicates another item",
  ],
  [
    compare("links", "counts at least", 1),
    "size(item.links) >= 1.0",
    "it has at least 1 kind of link",
  ],
  [
    compare("links", "counts at most", 2),
    "size(item.links) <= 2.0",
    "it has at most 2 kinds of link",
  ],
  [
    compare("deployedTo", "contains", "harbour"),
    '"harbour" in item.deployed_to',
    "it was deployed to “harbour”",
  ],
  [
    compare("deployedTo", "lacks", "harbour"),
    '!("harbour" in item.deployed_to)',
    "it was not deployed to “harbour”",
  ],
  [
    compare("deployedTo", "counts at least", 1),
    "size(item.deployed_to) >= 1.0",
    "it was deployed to at least 1 environment",
  ],
  [
    compare("deployedTo", "counts at most", 2),
    "size(item.deployed_to) <= 2.0",
    "it was deployed to at most 2 environments",
  ],
  [compare("estimate", "is", 3), "item.estimate == 3.0", "the estimate is 3"],
  [compare("estimate", "is not", 3), "item.estimate != 3.0", "the estimate is not 3"],
  [compare("estimate", "less than", 2.5), "item.estimate < 2.5", "the estimate is less than 2.5"],
  [
    compare("own.number.f-value", "at least", 400),
    "item.value_lost_per_week >= 400.0",
    "the Value lost per week is at least 400 pounds",
  ],
  [
    compare("estimate", "is", { fact: "remainingHours" }),
    "item.estimate == item.remaining_hours",
    "the estimate is the same as the remaining work",
  ],
  [
    compare("estimate", "is not", { fact: "remainingHours" }),
    "item.estimate != item.remaining_hours",
    "the estimate is not the same as the remaining work",
  ],
  [
    compare("daysInState", "is", 1),
    "item.days_in_state == 1.0",
    "it has been in its state for 1 day",
  ],
  [
    compare("daysInState", "is not", 2),
    "item.days_in_state != 2.0",
    "it has been in its state for not 2 days",
  ],
  [
    compare("daysSinceCreated", "more than", 30),
    "item.days_since_created > 30.0",
    "it was created more than 30 days ago",
  ],
  [
    compare("daysBlocked", "at least", 1),
    "item.days_blocked >= 1.0",
    "it has been blocked for at least 1 day",
  ],
  [
    compare("returns", "at least", 1),
    "item.times_returned >= 1.0",
    "it was returned at least 1 time",
  ],
  [
    compare("returns", "more than", 2),
    "item.times_returned > 2.0",
    "it was returned more than 2 times",
  ],
  [compare("children", "is", 1), "item.children == 1.0", "it has 1 child"],
  [compare("children", "at least", 2), "item.children >= 2.0", "it has at least 2 children"],
  [compare("openChildren", "is", 1), "item.open_children == 1.0", "it has 1 open child"],
  [compare("waitsFor", "at least", 1), "item.waits_for >= 1.0", "it waits for at least 1 item"],
  [compare("waitedFor", "more than", 2), "item.waited_for > 2.0", "more than 2 items wait for it"],
  [compare("openChildren", "is", 0), "item.open_children == 0.0", "it has 0 open children"],
  [compare("openChanges", "is", 1), "item.open_changes == 1.0", "it has 1 open change"],
  [compare("openChanges", "is", 2), "item.open_changes == 2.0", "it has 2 open changes"],
  [compare("mergedChanges", "is", 1), "item.merged_changes == 1.0", "it has 1 merged change"],
  [
    compare("mergedChanges", "at most", 0),
    "item.merged_changes <= 0.0",
    "it has at most 0 merged changes",
  ],
];

test.each(WORDS)("%j is written %s and said “%s”", (condition, text, sentence) => {
  expect(printCel(condition, VOCABULARY)).toBe(text);
  expect(conditionSentence(condition, VOCABULARY)).toBe(sentence);
  const { condition: back, problem } = parseCel(text, VOCABULARY);
  expect(problem).toBeNull();
  expect(printCel(back!, VOCABULARY)).toBe(text);
});

const all = (...of: Condition[]): Condition => ({ kind: "all", of });
const any = (...of: Condition[]): Condition => ({ kind: "any", of });
const not = (of: Condition): Condition => ({ kind: "not", of });
const estimated = compare("estimate", "more than", 3);

test.each<[Condition, string, string]>([
  [all(), "true", "it is any item"],
  [any(), "false", "it is no item at all"],
  [all(blocked), "item.blocked", "it is blocked"],
  [all(aBug, blocked), 'item.type == "Bug" && item.blocked', "the type is Bug and it is blocked"],
  [
    all(aBug, any(blocked, estimated)),
    'item.type == "Bug" && (item.blocked || item.estimate > 3.0)',
    "the type is Bug and (it is blocked or the estimate is more than 3)",
  ],
  [
    any(all(aBug, blocked), estimated),
    'item.type == "Bug" && item.blocked || item.estimate > 3.0',
    "(the type is Bug and it is blocked) or the estimate is more than 3",
  ],
  [
    any(all(aBug), estimated),
    'item.type == "Bug" || item.estimate > 3.0',
    "the type is Bug or the estimate is more than 3",
  ],
  [not(blocked), "!item.blocked", "it is not so that it is blocked"],
  [not(aBug), 'item.type != "Bug"', "it is not so that the type is Bug"],
  [
    not(compare("severity", "is set", null)),
    "item.severity == null",
    "it is not so that the severity is set",
  ],
  [
    not(compare("severity", "is empty", null)),
    "item.severity != null",
    "it is not so that the severity is not set",
  ],
  [
    not(compare("typeId", "one of", ["bug"])),
    '!(item.type in ["Bug"])',
    "it is not so that the type is Bug",
  ],
  [
    not(compare("title", "ends with", "a")),
    '!item.title.endsWith("a")',
    "it is not so that the title ends with “a”",
  ],
  [
    not(compare("title", "lacks", "a")),
    'item.title.has_words("a")',
    "it is not so that the title does not contain “a”",
  ],
  [
    not(compare("labels", "counts at least", 1)),
    "!(size(item.labels) >= 1.0)",
    "it is not so that it has at least 1 label",
  ],
  [
    not(compare("labels", "contains", "a")),
    '!("a" in item.labels)',
    "it is not so that the labels contain “a”",
  ],
  [
    not(all(aBug, blocked)),
    '!(item.type == "Bug" && item.blocked)',
    "it is not so that (the type is Bug and it is blocked)",
  ],
  [
    not(any(aBug, blocked)),
    '!(item.type == "Bug" || item.blocked)',
    "it is not so that (the type is Bug or it is blocked)",
  ],
])("%j is written %s and said “%s”", (condition, text, sentence) => {
  expect(printCel(condition, VOCABULARY)).toBe(text);
  expect(conditionSentence(condition, VOCABULARY)).toBe(sentence);
});

test("what is called so no more is named by its id, a field that is gone says so", () => {
  expect(conditionSentence(compare("typeId", "is", "gone"), VOCABULARY)).toBe("the type is gone");
  expect(conditionSentence(compare("own.number.gone", "is", 2), VOCABULARY)).toBe(
    "the a field that is gone is 2",
  );
});
