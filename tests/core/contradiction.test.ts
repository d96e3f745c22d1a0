import type { Comparison, Condition } from "@/core/condition/condition";
import { neverHolds } from "@/core/workflow/contradiction";

const is = (fact: string, op: string, value: unknown = null): Condition =>
  ({ kind: "compare", fact, op, value }) as Comparison;
const all = (...of: Condition[]): Condition => ({ kind: "all", of });
const any = (...of: Condition[]): Condition => ({ kind: "any", of });
const not = (of: Condition): Condition => ({ kind: "not", of });
const day = (n: number) => ({ day: n });

/** Conditions joined by "and" that no item can meet, each with why. */
const NEVER: [why: string, condition: Condition][] = [
  ["nothing of nothing", any()],
  ["not everything", not(all())],
  ["empty and filled", all(is("estimate", "is empty"), is("estimate", "is set"))],
  ["empty and a value", all(is("estimate", "is empty"), is("estimate", "is", 3))],
  ["empty and having a label", all(is("labels", "is empty"), is("labels", "contains", "gate"))],
  ["two values of a choice", all(is("typeId", "is", "bug"), is("typeId", "is", "story"))],
  [
    "a value and a list without it",
    all(is("typeId", "is", "bug"), is("typeId", "one of", ["story", "task"])),
  ],
  [
    "lists with nothing in common",
    all(is("typeId", "one of", ["bug"]), is("typeId", "one of", ["story", "task"])),
  ],
  ["a value and not it", all(is("typeId", "is", "bug"), is("typeId", "is not", "bug"))],
  [
    "a list all of which is excluded",
    all(is("typeId", "one of", ["bug", "story"]), is("typeId", "none of", ["story", "bug", "x"])),
  ],
  ["blocked and not", all(is("blocked", "is", true), is("blocked", "is", false))],
  ["two texts", all(is("title", "is", "Gate"), is("title", "is", "Quay"))],
  ["a label and without it", all(is("labels", "contains", "gate"), is("labels", "lacks", "gate"))],
  ["above the most", all(is("estimate", "at least", 5), is("estimate", "at most", 4))],
  ["more than the most", all(is("estimate", "more than", 4), is("estimate", "at most", 4))],
  ["less than the least", all(is("estimate", "less than", 4), is("estimate", "at least", 4))],
  ["the open least last", all(is("estimate", "at least", 4), is("estimate", "less than", 4))],
  ["a number under another", all(is("estimate", "is", 3), is("estimate", "at least", 4))],
  ["a number over another", all(is("estimate", "is", 3), is("estimate", "at most", 2))],
  ["two numbers", all(is("estimate", "is", 3), is("estimate", "is", 4))],
  ["a number that is left out", all(is("estimate", "is", 3), is("estimate", "more than", 3))],
  ["a number under the open most", all(is("estimate", "is", 3), is("estimate", "less than", 3))],
  [
    "the narrower of two bounds",
    all(is("estimate", "at least", 2), is("estimate", "at least", 6), is("estimate", "at most", 5)),
  ],
  [
    "the narrower of two open bounds",
    all(is("estimate", "less than", 9), is("estimate", "less than", 3), is("estimate", "is", 3)),
  ],
  ["dates apart", all(is("dueOn", "at least", "2026-12-02"), is("dueOn", "at most", "2026-12-01"))],
  ["days apart", all(is("dueOn", "more than", day(3)), is("dueOn", "at most", day(3)))],
  [
    "one part that never holds",
    all(
      is("blocked", "is", true),
      any(
        all(is("estimate", "at least", 5), is("estimate", "at most", 4)),
        all(is("typeId", "is", "bug"), is("typeId", "is not", "bug")),
      ),
    ),
  ],
  [
    "each of several ways",
    any(
      all(is("blocked", "is", true), is("blocked", "is", false)),
      all(is("estimate", "is", 1), is("estimate", "is", 2)),
    ),
  ],
];

/** Conditions that an item can meet, or of which nobody can say beforehand. */
const CAN: [why: string, condition: Condition][] = [
  ["everything", all()],
  [
    "one way of several",
    any(is("blocked", "is", true), all(is("blocked", "is", true), is("blocked", "is", false))),
  ],
  ["not of something", not(is("blocked", "is", true))],
  ["empty and not a value", all(is("estimate", "is empty"), is("estimate", "is not", 3))],
  ["empty and none of a list", all(is("typeId", "is empty"), is("typeId", "none of", ["bug"]))],
  ["empty and without a label", all(is("labels", "is empty"), is("labels", "lacks", "gate"))],
  ["values in common", all(is("typeId", "one of", ["bug", "story"]), is("typeId", "is", "bug"))],
  [
    "a choice that is left",
    all(is("typeId", "one of", ["bug", "story"]), is("typeId", "is not", "bug")),
  ],
  ["only exclusions", all(is("typeId", "is not", "bug"), is("typeId", "none of", ["story"]))],
  ["the same twice", all(is("blocked", "is", true), is("blocked", "is", true))],
  ["the same text", all(is("title", "is", "Gate"), is("title", "is", "Gate"))],
  ["a text and words in it", all(is("title", "is", "Gate"), is("title", "contains", "Ga"))],
  ["words of two texts", all(is("title", "contains", "Gate"), is("title", "contains", "Quay"))],
  ["another label", all(is("labels", "contains", "gate"), is("labels", "lacks", "quay"))],
  ["two labels", all(is("labels", "contains", "gate"), is("labels", "contains", "quay"))],
  ["the very bound", all(is("estimate", "at least", 4), is("estimate", "at most", 4))],
  ["between bounds", all(is("estimate", "more than", 3), is("estimate", "less than", 4))],
  ["a number in a range", all(is("estimate", "is", 3), is("estimate", "at least", 3))],
  ["not a number", all(is("estimate", "is not", 3), is("estimate", "at least", 3))],
  ["two facts", all(is("estimate", "at least", 5), is("returns", "at most", 4))],
  [
    "a date and a day, which meet some day",
    all(is("dueOn", "at least", "2026-12-02"), is("dueOn", "at most", day(1))),
  ],
  [
    "what only another fact tells",
    all(is("daysInState", "at least", { fact: "daysBlocked" }), is("daysInState", "at most", 1)),
  ],
  [
    "who only turns out by who asks",
    all(is("assigneeId", "is", { who: "me" }), is("assigneeId", "is", "noor")),
  ],
];

test.each(NEVER)("%s can never hold", (_, condition) => {
  expect(neverHolds(condition)).toBe(true);
});

test.each(CAN)("%s can hold", (_, condition) => {
  expect(neverHolds(condition)).toBe(false);
});
