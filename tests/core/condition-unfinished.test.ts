import { parseCel } from "@/core/condition/cel-parse";
import { printCel } from "@/core/condition/cel-print";
import { inSigns } from "@/core/condition/plain-words";
import { writtenConditionSchema } from "@/core/condition/condition";
import { copyOf } from "@/core/workflow/copy";
import { requirementWords } from "@/core/workflow/requirements/table";
import { VOCABULARY } from "./setup/conditions";
import { workflow } from "./setup/make";

const written = (text: string) => {
  const parsed = parseCel(text, VOCABULARY);
  return parsed.problem ? parsed.problem : printCel(parsed.condition, VOCABULARY);
};

test.each([
  ["item.blocked and item.estimate > 3", "item.blocked && item.estimate > 3"],
  ["item.blocked OR not item.late", "item.blocked || ! item.late"],
  ["days in state > 3", "item.days_in_state > 3"],
  [
    'Days In State > 3 and title.contains("and")',
    'item.days_in_state > 3 && item.title.contains("and")',
  ],
  ["size(labels) > 2", "size(item.labels) > 2"],
  ['"priority" == item.title // or so', '"priority" == item.title // or so'],
  ["item.type", "item.type"],
  ["stated > 3", "stated > 3"],
  ["day(7)", "day(7)"],
])("%s is in signs: %s", (text, signs) => {
  expect(inSigns(text, VOCABULARY).text).toBe(signs);
});

test("words are read as the signs are, and printed as signs", () => {
  expect(written('type == "Bug" and (estimate > 3 or blocked)')).toBe(
    'item.type == "Bug" && (item.estimate > 3.0 || item.blocked)',
  );
});

test("a place in the signs is told where it was written", () => {
  const { text, written: place } = inSigns("days in state > 3 and blocked", VOCABULARY);
  const at = (part: string) => place(text.indexOf(part));
  expect(at("item.days")).toBe(0);
  // Within a name that was put in its place: where the name begins.
  expect(at("state")).toBe(0);
  expect(at("> 3")).toBe(14);
  expect(at("&&")).toBe(18);
  expect(place(text.length)).toBe(29);
});

test.each([
  ["estimate > 3 and blockd", "and blockd", "blockd"],
  ["estimate > 3 and item.severty == null", "severty", "severity"],
  ['blocked and type == "Bugg"', "Bugg", "Bug"],
])("in %s is told where, and what was meant: %s", (text, wrong, right) => {
  const problem = parseCel(text, VOCABULARY).problem!;
  if (!problem.meant) {
    expect(text.slice(problem.at)).toBe(right);
    return;
  }
  const { from, to, insert } = problem.meant;
  expect([text.slice(from, to), insert]).toEqual([wrong, right]);
  const mended = text.slice(0, from) + insert + text.slice(to);
  expect(parseCel(mended, VOCABULARY).problem).toBeNull();
});

test("what nothing is near to gets no guess", () => {
  const { meant, sentence } = parseCel("item.whatever == 3", VOCABULARY).problem!;
  expect(meant).toBeUndefined();
  expect(sentence).toBe("An item has no “whatever”.");
});

describe("an unfinished text in a draft", () => {
  const unread = { kind: "unread" as const, text: 'item.type == "Bug" && item.est' };
  const rule = { kind: "condition" as const, condition: unread };

  test("is kept as it was typed, of a bounded length", () => {
    expect(writtenConditionSchema.parse(unread)).toEqual(unread);
    expect(writtenConditionSchema.safeParse({ ...unread, text: "x".repeat(4_001) }).success).toBe(
      false,
    );
    const demanding = {
      ...workflow,
      transitions: workflow.transitions.map((t) => ({ ...t, requirements: [rule] })),
    };
    let n = 0;
    const copy = copyOf(demanding, () => `new ${++n}`);
    expect(copy.transitions.every((t) => t.requirements[0].kind === "condition")).toBe(true);
    expect(copy.transitions[0].requirements).toEqual([rule]);
  });

  test("says in its rule that it is not finished", () => {
    expect(requirementWords(rule, VOCABULARY)).toBe(
      'only when “item.type == "Bug" && item.est” holds, which is not finished',
    );
  });
});
