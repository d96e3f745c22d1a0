import { completions } from "@/core/condition/complete";
import { parseCel } from "@/core/condition/cel-parse";
import { printCel } from "@/core/condition/cel-print";
import {
  asksRelatives,
  changesByItself,
  conditionSchema,
  factsIn,
  looksAround,
  sayWhatOthersDo,
  type Condition,
} from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { conditionSentence } from "@/core/condition/sentence";
import { withoutNarrowing } from "@/core/view/narrow";
import { conditionOf, queryOf } from "@/ui/condition/query";
import { VOCABULARY } from "./setup/conditions";
import { plainItem } from "./setup/make";

const asker: Asker = { personId: "noor", teamIds: [], now: 0, zone: "UTC" };
const high: Condition = { kind: "compare", fact: "priority", op: "is", value: "high" };
const some = (among: "children" | "parent", ...of: Condition[]): Condition => ({
  kind: "some",
  among,
  of,
});
const not = (of: Condition): Condition => ({ kind: "not", of });

const one = (priority: "high" | "low"): AskedItem => ({
  ...NOTHING_AROUND,
  item: { ...plainItem, priority },
});
const with_ = (children: AskedItem[], parent: AskedItem[] = []): AskedItem => ({
  ...one("low"),
  relatives: { children, parent },
});

test("a condition can ask for what stands directly under and above an item", () => {
  const asks = (condition: Condition, asked: AskedItem) => holds(condition, asked, asker);
  const mixed = with_([one("low"), one("high")], [one("high")]);
  expect(asks(some("children", high), mixed)).toBe(true);
  expect(asks(not(some("children", not(high))), mixed)).toBe(false);
  expect(asks(not(some("children", not(high))), with_([one("high")]))).toBe(true);
  expect(asks(some("parent", high), mixed)).toBe(true);
  // With nothing there all of nothing are, and none is.
  expect(asks(some("children", high), with_([]))).toBe(false);
  expect(asks(not(some("children", not(high))), with_([]))).toBe(true);
  // All that is asked is asked of the same one.
  const alsoLow: Condition = { kind: "compare", fact: "priority", op: "is", value: "low" };
  expect(asks(some("children", high, alsoLow), mixed)).toBe(false);
});

test.each<[string, Condition, string]>([
  [
    'children.exists(child, child.priority == "high")',
    some("children", high),
    "for at least one of its children, the priority is high",
  ],
  [
    '!children.exists(child, child.priority == "high")',
    not(some("children", high)),
    "for none of its children, the priority is high",
  ],
  [
    'parent.exists(above, above.priority == "high" && above.type == "Bug")',
    some("parent", high, { kind: "compare", fact: "typeId", op: "is", value: "bug" }),
    "for what it stands under, the priority is high and the type is Bug",
  ],
  [
    '!parent.exists(above, above.priority == "high")',
    not(some("parent", high)),
    "it stands under nothing for which the priority is high",
  ],
])("it is written and said: %s", (text, condition, sentence) => {
  expect(printCel(condition, VOCABULARY)).toBe(text);
  expect(parseCel(text, VOCABULARY)).toEqual({ condition, problem: null });
  expect(conditionSentence(condition, VOCABULARY)).toBe(sentence);
});

test("all of them is none that is not so, whatever they are called in the text", () => {
  const text = 'children.all(x, x.priority == "high" || x.estimate > 3.0)';
  const { condition } = parseCel(text, VOCABULARY);
  expect(conditionSentence(condition!, VOCABULARY)).toBe(
    "for all of its children, the priority is high or the estimate is more than 3",
  );
  const read = printCel(condition!, VOCABULARY);
  expect(parseCel(read, VOCABULARY).condition).toEqual(condition);
});

test.each([
  ['children.exists(child, item.priority == "high")', "Here it is about child", 23],
  ['items.exists(i, i.priority == "high")', "Only of children and parent", 0],
  ['children.exists(c, parent.exists(p, p.priority == "high"))', "no further ones can be asked", 0],
  ['children.exists(c, c.promise == "missed")', "How promises stand cannot be asked", 0],
  ['children.exists_one(c, c.priority == "high")', "with exists() and all()", 0],
  ["children.exists(c, c.unheard > 3.0)", "An item has no “unheard”", 21],
])("what cannot be asked of them is said where it stands: %s", (text, sentence, at) => {
  const { condition, problem } = parseCel(text, VOCABULARY);
  expect(condition).toBeNull();
  expect(problem!.sentence).toContain(sentence);
  expect(problem!.at).toBeGreaterThanOrEqual(at);
});

test("how many children there are is asked by the same word", () => {
  const { condition } = parseCel("Children > 3 and children.exists(c, c.blocked)", VOCABULARY);
  expect(printCel(condition!, VOCABULARY)).toBe(
    "item.children > 3.0 && children.exists(child, child.blocked)",
  );
});

test("the right word is offered for the wrong one", () => {
  const text = 'children.exists(child, item.priority == "high")';
  const { from, to, insert } = parseCel(text, VOCABULARY).problem!.meant!;
  expect(text.slice(0, from) + insert + text.slice(to)).toBe(
    'children.exists(child, child.priority == "high")',
  );
  const typed = "children.exists(child, child.prio";
  expect(completions(typed, typed.length, VOCABULARY).map(({ insert }) => insert)).toContain(
    "priority",
  );
});

test("from outside it goes one step, and not into what is worked out for a list", () => {
  const reads = (condition: unknown) => conditionSchema.safeParse(condition).success;
  expect(reads(some("children", high))).toBe(true);
  expect(reads(some("children", some("parent", high)))).toBe(false);
  expect(reads(some("children", not({ kind: "any", of: [some("parent", high)] })))).toBe(false);
  expect(
    reads(some("children", { kind: "compare", fact: "promise", op: "is", value: "missed" })),
  ).toBe(false);
  expect(reads({ kind: "some", among: "cousins", of: [high] })).toBe(false);
});

test("it is about others: no card says it, it changes by itself, and no value narrows it", () => {
  const condition = some("children", high);
  expect([asksRelatives(condition), looksAround(condition), changesByItself(condition)]).toEqual([
    true,
    true,
    true,
  ]);
  expect(asksRelatives(not({ kind: "all", of: [condition] }))).toBe(true);
  expect(asksRelatives(not(high))).toBe(false);
  expect(sayWhatOthersDo(factsIn(condition))).toBe(true);
  expect(sayWhatOthersDo(factsIn(high))).toBe(false);
  expect(sayWhatOthersDo(["own.shown number.f"])).toBe(true);
  expect(factsIn(condition).has("priority")).toBe(true);
  expect(withoutNarrowing(condition, "priority")).toEqual(condition);
});

test("the builder keeps what a group is about, and goes no further than one step", () => {
  const condition: Condition = { kind: "all", of: [high, some("children", high)] };
  expect(conditionOf(queryOf(condition), VOCABULARY)).toEqual(condition);
  const query = queryOf(some("children", { kind: "any", of: [high, high] }));
  const inner = { ...query, among: "parent" as const };
  const outer = conditionOf({ ...query, rules: [inner] }, VOCABULARY);
  expect(conditionSchema.safeParse(outer).success).toBe(true);
});
