import type { ColumnsBy } from "@/core/board/columns-by";
import { lanesByField, lanesWords } from "@/core/board/lanes-by";
import { isCounted } from "@/core/item/list/listed";
import type { FactName } from "@/core/condition/facts";
import { factLabel, type Vocabulary } from "@/core/condition/vocabulary";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { filterOf } from "./filter";
import { PLAIN_LOOK, type Look } from "./look";
import type { Said } from "./said";

/*
 * Which looks answer a question: the same items on a board, in groups, and in one row.
 */

/** A look that is proposed, in words. */
export interface Proposal {
  words: string;
  look: Look;
}

/** A board of a project, as far as it says which items it can show. */
export interface KnownBoard {
  id: string;
  name: string;
  columnsBy: ColumnsBy;
  /** The levels of the types whose items stand on it. */
  levels: readonly string[];
}

/** Which boards have columns of the values of a fact. */
const COLUMNS_OF: Partial<Record<FactName, ColumnsBy>> = {
  assigneeId: "assignee",
  teamId: "team",
  sprintId: "sprint",
  releaseId: "release",
  priority: "priority",
};

/** Whether items in progress alone are asked for, or none of them. */
const asksFor = (parts: readonly Condition[], kind: string): boolean =>
  parts.some(
    (part) =>
      part.kind === "compare" &&
      part.fact === "stateKind" &&
      (part.value === kind || (Array.isArray(part.value) && part.value.includes(kind))),
  );

const shown = (...facts: FactName[]): Look["fields"] =>
  [...new Set(facts)].map((fact) => ({ fact, width: null }));

/** Three looks at what was said. */
export function proposals(
  { parts, by, sort }: Said,
  boards: readonly KnownBoard[],
  vocabulary: Vocabulary,
): Proposal[] {
  const filter = parts.length === 0 ? EVERY_ITEM : filterOf(parts);
  const common: Look = { ...PLAIN_LOOK, filter };
  const label = (fact: FactName) => factLabel(fact, vocabulary);
  return [
    onBoard(common, by, { boards, vocabulary }),
    inGroups(common, by ?? (asksFor(parts, "unstarted") ? "priority" : "stateId"), label),
    inOneRow(common, { parts, sort, by }, label),
  ];
}

function onBoard(
  common: Look,
  by: FactName | null,
  { boards, vocabulary }: { boards: readonly KnownBoard[]; vocabulary: Vocabulary },
): Proposal {
  const wanted = by && COLUMNS_OF[by];
  const known = boards.find(({ columnsBy }) => columnsBy === wanted);
  const laned = by === "assigneeId" || by === "classOfService";
  if (known && !laned)
    return { words: `The board “${known.name}”`, look: { ...common, board: known.id } };
  if (by === null || !isCounted(by)) return { words: "The board of the process", look: common };
  const lanes = lanesByField(by);
  const words = `The board, in lanes by ${lanesWords(lanes, vocabulary)}`;
  return { words, look: { ...common, lanes } };
}

function inGroups(common: Look, group: FactName, label: (fact: FactName) => string): Proposal {
  return {
    words: `A table in groups by ${label(group)}`,
    look: {
      ...common,
      arrangement: "table",
      group,
      sort: [{ fact: "priority", descending: true }],
      fields: shown("stateId", "assigneeId", "priority", "age", "estimate", "dueOn"),
    },
  };
}

function inOneRow(
  common: Look,
  { parts, sort, by }: Pick<Said, "parts" | "sort" | "by">,
  label: (fact: FactName) => string,
): Proposal {
  const usual = {
    fact: asksFor(parts, "unstarted") ? "priority" : "age",
    descending: true,
  } as const;
  const first = sort ?? usual;
  const turned = first.descending ? ", falling" : "";
  return {
    words: `A table sorted by ${label(first.fact)}${turned}`,
    look: {
      ...common,
      arrangement: "table",
      sort: [first],
      fields: shown(...(by ? [by] : []), first.fact, "stateId", "assigneeId", "daysInState"),
    },
  };
}

/** Questions that people come with, by what they do; each as it would be said. */
export const QUESTIONS: readonly { who: string; asks: readonly (readonly [string, string])[] }[] = [
  {
    who: "I look after the flow",
    asks: [
      ["What is stuck?", "in progress, blocked, longest here first"],
      ["What gets old?", "in progress, by state, oldest first"],
      ["Who has how much?", "in progress, by assignee"],
      ["What is promised for this week?", "due this week, by team, soonest first"],
    ],
  },
  {
    who: "I do the work",
    asks: [
      ["What is on my plate?", "mine, not finished, oldest first"],
      ["What can I pull?", "not started, nobody has it, most urgent first"],
      ["What is ready for its next step?", "in progress, ready, longest here first"],
    ],
  },
  {
    who: "I review and test",
    asks: [
      ["What waits?", "waiting, by state, longest here first"],
      ["What came back?", "came back, not finished, by assignee"],
    ],
  },
  {
    who: "I plan",
    asks: [
      ["What is in the sprint?", "the current sprint, by state"],
      ["What has no size yet?", "not started, not sized, by type"],
      ["What came unplanned?", "unplanned, not finished, by severity"],
    ],
  },
];
