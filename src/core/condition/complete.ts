import { comparableWith, operatorsFor } from "./condition";
import { ONE_SPRINT_WORDS, sprintText } from "./sprint-word";
import { factOf, type FactName } from "./facts";
import { tokens, type Token } from "./cel-syntax";
import {
  factLabel,
  factsOffered,
  factText,
  factTexts,
  optionsOf,
  type Vocabulary,
} from "./vocabulary";

export interface Completion {
  /** What is put in place of the characters from `from` to the cursor. */
  insert: string;
  from: number;
  label: string;
  /** What it is, in a word or two. */
  note: string;
}

const SIGNS: Record<string, string> = {
  is: "==",
  "is not": "!=",
  "at least": ">=",
  "at most": "<=",
  "more than": ">",
  "less than": "<",
  "one of": "in [",
};

/** What is asked of those around an item, to be gone on with. */
const RELATIVES = [
  { insert: "children.exists(child, child.", label: "children.exists(…)", note: "a child" },
  { insert: "children.all(child, child.", label: "children.all(…)", note: "all children" },
  { insert: "parent.exists(above, above.", label: "parent.exists(…)", note: "what it is under" },
];

/** What facts are those of in a text: the item, a child of it, what stands above it. */
const SUBJECTS = new Set(["item", "child", "above"]);

/** What can stand at the cursor of a condition's text, best first. */
export function completions(text: string, cursor: number, vocabulary: Vocabulary): Completion[] {
  const before = tokens(text.slice(0, cursor));
  const last = before.at(-1);
  const touching = last && last.at + last.text.length === cursor ? last : undefined;
  const typed = touching?.kind === "word" || touching?.kind === "strange" ? touching : undefined;
  const rest = typed ? before.slice(0, -1) : before;
  const from = typed?.at ?? cursor;
  const start = (typed?.text ?? "").toLowerCase();
  const fits = (c: Completion) =>
    c.label.toLowerCase().includes(start) || c.insert.toLowerCase().startsWith(start);
  return candidates(rest, vocabulary)
    .map((c) => ({ ...c, from }))
    .filter(fits)
    .slice(0, 40);
}

function candidates(before: Token[], vocabulary: Vocabulary): Omit<Completion, "from">[] {
  const [second, last] = [before.at(-2), before.at(-1)];
  if (last?.kind === "dot" && SUBJECTS.has(second?.text ?? ""))
    return factsOffered(vocabulary).map((name) => ({
      insert: factText(name, vocabulary),
      label: factLabel(name, vocabulary),
      note: factOf(name).kind,
    }));
  const fact = factBefore(before, vocabulary);
  // Behind a sign the comparison is whole: with a value, or with the other fact that stands last.
  const begun = second?.kind === "dot" && !isSign(before.at(-4));
  if (fact && last?.kind === "word" && begun)
    return operatorsFor(fact).flatMap((op) =>
      SIGNS[op]
        ? [{ insert: `${SIGNS[op]} `, label: `${SIGNS[op].replace(" [", "")}  ${op}`, note: "" }]
        : [],
    );
  if (fact && (last?.kind === "operator" || last?.text === "[" || last?.kind === "comma"))
    return values(fact, vocabulary);
  if (!last || last.kind === "operator" || last.kind === "not" || last.text === "(")
    return [
      { insert: "item.", label: "item.", note: "a fact of the item" },
      ...RELATIVES,
      ...factsOffered(vocabulary).map((name) => ({
        insert: `item.${factText(name, vocabulary)} `,
        label: factLabel(name, vocabulary),
        note: factOf(name).kind,
      })),
    ];
  return [
    { insert: "&& ", label: "&&  and", note: "" },
    { insert: "|| ", label: "||  or", note: "" },
  ];
}

const isSign = (token?: Token) =>
  token?.kind === "operator" && token.text !== "&&" && token.text !== "||";

/** The fact that the comparison at the end of the tokens is about. */
function factBefore(before: Token[], vocabulary: Vocabulary): FactName | null {
  for (let i = before.length - 1; i >= 0 && i > before.length - 60; i--) {
    if (before[i].text === "&&" || before[i].text === "||") return null;
    if (
      before[i].kind === "word" &&
      before[i - 1]?.kind === "dot" &&
      SUBJECTS.has(before[i - 2]?.text ?? "")
    )
      return [...factTexts(vocabulary)].find(([, text]) => text === before[i].text)?.[0] ?? null;
  }
  return null;
}

function values(fact: FactName, vocabulary: Vocabulary): Omit<Completion, "from">[] {
  const { kind, options, nullable } = factOf(fact);
  const found = optionsOf(fact, vocabulary).map(({ label }) => ({
    insert: JSON.stringify(label),
    label,
    note: "",
  }));
  if (options === "people") found.unshift({ insert: "me", label: "me", note: "whoever looks" });
  if (options === "teams")
    found.unshift({ insert: "my_teams", label: "my_teams", note: "of whoever looks" });
  if (options === "sprints")
    found.unshift(
      ...ONE_SPRINT_WORDS.map((word) => ({
        insert: sprintText(word),
        label: sprintText(word),
        note: "whichever it is then",
      })),
    );
  if (kind === "date")
    found.push(
      { insert: "day(0)", label: "day(0)", note: "today" },
      { insert: "day(7)", label: "day(7)", note: "in a week" },
    );
  found.push(
    ...comparableWith(fact, "is", factsOffered(vocabulary)).map((other) => ({
      insert: `item.${factText(other, vocabulary)}`,
      label: factLabel(other, vocabulary),
      note: "another fact",
    })),
  );
  if (nullable) found.push({ insert: "null", label: "null", note: "not set" });
  return found;
}
