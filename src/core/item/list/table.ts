import { z } from "zod";
import type { Card } from "@/core/board/card";
import type { Instant } from "@/core/calendar/instant";
import { conditionSchema } from "@/core/condition/condition";
import { factOf, type FactName, type FactValue } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { amountsOver, isAmount } from "@/core/item/amount";
import { shownBy, type Look } from "@/core/view/look";
import { isDuration, type GroupKey } from "./group";
import { isListed } from "./listed";
import { isSummed, listedFact, listQuerySchema, namedItems } from "./query";
import type { Summary } from "./sums";
import { valueWords } from "./value-words";

/** So many rows of a table are sent at a time at most. */
export const MOST_ROWS_SENT = 200;
/** So many rows go into one part of an exported file. */
export const EXPORT_PART = 1_000;
const MOST_COLUMNS = 20;

const asked = listQuerySchema.pick({ sort: true, group: true }).extend({
  /** The design whose scope holds; null: all of the project. */
  board: z.string().max(64).nullable().default(null),
  /** Whether only what stands in the columns of the board is listed. */
  standing: z.boolean().default(false),
  condition: conditionSchema,
  columns: z.array(listedFact(isListed)).max(MOST_COLUMNS).default([]),
  /** When the list was read first: days are counted from then on. */
  at: z.number().int().positive().nullable().default(null),
});

/** Rows of a table: which, from where on. */
export const tableBody = asked.extend({
  /** An anchor, or where the page before ended; from the top without one. */
  after: z.string().max(20_000).nullable().default(null),
  /** So many rows behind it are passed over. */
  skip: z.number().int().min(0).max(1_000).default(0),
  limit: z.number().int().min(1).max(MOST_ROWS_SENT).default(100),
  /** Whether groups, counts and anchors are wanted too. */
  head: z.boolean().default(true),
});
export type TableAsked = z.output<typeof tableBody>;

/** The same list as a part of a file. */
export const exportBody = asked.extend({ after: z.string().max(20_000).nullable().default(null) });
export type ExportAsked = z.output<typeof exportBody>;

/** Which items of a board a condition is true of. */
export const matchingBody = asked.pick({ board: true, condition: true }).extend({
  /** Only which of these; null: of all. */
  of: namedItems,
});
export type MatchingAsked = Omit<z.output<typeof matchingBody>, "of"> & {
  of?: readonly string[] | null;
};

/** So many items are told apart on a board at most. */
export const MOST_MATCHING = 100_000;

export interface MatchingView {
  ids: string[];
}

export interface TableRow {
  card: Card;
  /** In the order of the columns. */
  values: FactValue[];
}

export interface TableGroup {
  key: GroupKey;
  label: string;
  count: number;
  /** Of each column what it comes to; null where a column is not summed up. */
  sums: (Summary | null)[];
}

export interface TableHead {
  /** One of everything where the list is not grouped. */
  groups: TableGroup[];
  /** Over all groups. */
  total: TableGroup;
  /** Where every thousandth row stands. */
  anchors: string[];
  /** How many the project has that this person sees, whatever the condition. */
  of: number;
}

export interface TableView {
  rows: TableRow[];
  head: TableHead | null;
  at: Instant;
}

export interface ExportView {
  /** Lines of comma-separated values; the first part begins with the names of the columns. */
  csv: string;
  rows: number;
  next: string | null;
  at: Instant;
}

/** What a column comes to, in words: what lasts by its mean, dates by the first, amounts added up. */
export function sumWords(
  fact: FactName,
  sum: Summary | null,
  vocabulary: Vocabulary,
): { label: string; words: string } | null {
  if (sum === null || sum.of === 0) return null;
  if (sum.kind === "date")
    return { label: "earliest", words: valueWords(fact, sum.earliest, vocabulary) };
  return isDuration(fact)
    ? { label: "mean", words: valueWords(fact, sum.mean, vocabulary) }
    : { label: "sum", words: valueWords(fact, sum.sum, vocabulary) };
}

/** The columns whose sums are asked for. */
export const summedOf = (columns: readonly FactName[], vocabulary: Vocabulary): FactName[] => {
  const amounts = amountsOver(vocabulary);
  return columns.filter((fact) => isSummed(fact) && (!isAmount(fact) || amounts.includes(fact)));
};

/** A cell in a file: what people read, but numbers and dates as they are written everywhere. */
export function cellText(fact: FactName, value: FactValue, vocabulary: Vocabulary): string {
  if (value === null) return "";
  if (Array.isArray(value)) return value.map((v) => valueWords(fact, v, vocabulary)).join(", ");
  const { kind } = factOf(fact);
  return kind === "number" || kind === "date" ? String(value) : valueWords(fact, value, vocabulary);
}

/** What is asked of a table to draw its first rows as a look wants them. */
export const tableAsked = (look: Look): TableAsked => ({
  board: look.board,
  standing: false,
  condition: shownBy(look),
  sort: [...look.sort],
  group: look.group,
  columns: look.fields.map((field) => field.fact),
  at: null,
  after: null,
  skip: 0,
  limit: MOST_ROWS_SENT,
  head: true,
});
