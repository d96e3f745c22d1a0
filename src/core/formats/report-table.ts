import { parse } from "csv-parse/sync";
import { z } from "zod";
import { writeCsv } from "./csv";
import { cutText } from "./cut-text";
import { writtenDay } from "./written-day";
import { FileProblem, LARGEST_FILE } from "./xml";

/** What a report can say, and by which words a column is likely to mean it. */
export const REPORT_COLUMNS = [
  "title",
  "happened",
  "reproduce",
  "place",
  "mail",
  "receivedOn",
] as const;
export type ReportColumn = (typeof REPORT_COLUMNS)[number];

export const COLUMN_WORDS: Record<ReportColumn, string> = {
  title: "in a few words",
  happened: "what happened",
  reproduce: "how to make it happen again",
  place: "where",
  mail: "mail address",
  receivedOn: "the day it came",
};

const LIKELY: Record<ReportColumn, RegExp> = {
  title: /^(title|subject|summary|name|headline|short|issue|problem|what$)\b/i,
  happened: /^(what happened|happened|description|details?|text|body|message|notes?|comment)\b/i,
  reproduce: /^(steps|how to|reproduc|repro)/i,
  place: /^(where|place|location|page|quay|boat|screen|area)\b/i,
  mail: /^(e-?mail|mail|from|reporter|contact|address)\b/i,
  receivedOn: /^(date|day|created|received|reported|opened|when|told on|came)\b/i,
};

const MAIL = z.email();
const LONGEST_TITLE = 200;

/** Which column of a table, counted from 0, says what; null where none does. */
export type ColumnMatch = Record<ReportColumn, number | null>;

export interface Table {
  header: string[];
  rows: string[][];
  /** The line of the file on which each row begins, the first being 1; blank lines count. */
  lines: number[];
}

export const MOST_ROWS = 5_000;
const DELIMITERS = [",", ";", "\t"] as const;
/** Lines end in any of these ways, also within one file. */
const LINE_ENDS = ["\r\n", "\n", "\r"];

/**
 * Reads a table of comma-separated values (RFC 4180: quoted fields, doubled quotes, line breaks
 * inside). As programs write it otherwise is understood too: semicolons and tabs as separators, a
 * first line "sep=;" that names one, a byte order mark, line ends of several kinds, blank lines,
 * quotation marks inside a field that does not begin with one. The first line names the columns.
 * @throws FileProblem when it is no such table, too large or too long
 */
export function readTable(text: string): Table {
  if (text.length > LARGEST_FILE) throw new FileProblem("The file is larger than 5 MB.");
  if (text.includes("\u0000")) throw new FileProblem("This is no text file.");
  const whole = text.replace(/^\ufeff/, "");
  const named = /^sep=(.)(?:\r\n|\n|\r|$)/i.exec(whole);
  const body = named ? whole.slice(named[0].length) : whole;
  const records = readRecords(body, named?.[1] ?? guessDelimiter(body));
  // A line that names the separator is a line of the file all the same.
  const [head, ...rest] = records.map((r) => ({ ...r, line: r.line + (named ? 1 : 0) }));
  if (!head || rest.length === 0)
    throw new FileProblem("The file has no rows beneath its first line, which names the columns.");
  if (rest.length > MOST_ROWS)
    throw new FileProblem(
      `The table has more than ${MOST_ROWS.toLocaleString("en")} rows. Import it in parts.`,
    );
  return {
    header: head.cells.map((h) => h.trim()),
    rows: rest.map((r) => r.cells),
    lines: rest.map((r) => r.line),
  };
}

function readRecords(body: string, delimiter: string): { cells: string[]; line: number }[] {
  try {
    const read = parse(body, {
      delimiter,
      record_delimiter: LINE_ENDS,
      relax_quotes: true,
      relax_column_count: true,
      skip_empty_lines: true,
      info: true,
      to: MOST_ROWS + 2,
    }) as unknown as { record: string[]; info: { lines: number } }[];
    return read.map(({ record, info }) => ({ cells: record, line: info.lines - breaksIn(record) }));
  } catch (error) {
    const { code, lines } = error as { code?: string; lines?: number };
    if (code === "CSV_QUOTE_NOT_CLOSED")
      throw new FileProblem(
        "The table cannot be read: a quotation mark at the beginning of a field is never closed. Close it, or take it out.",
      );
    throw new FileProblem(
      `The table cannot be read${lines ? ` from line ${lines} on` : ""}: ${(error as Error).message.replace(/\.$/, "")}.`,
    );
  }
}

/** Line breaks inside the fields of a record. */
const breaksIn = (record: readonly string[]): number =>
  record.reduce((sum, cell) => sum + (cell.match(/\r\n|\n|\r/g)?.length ?? 0), 0);

/** The separator that stands most often in the first line, outside quotation marks. */
function guessDelimiter(body: string): string {
  const counts = new Map<string, number>(DELIMITERS.map((d) => [d, 0]));
  let quoted = false;
  for (const letter of body) {
    if (letter === '"') quoted = !quoted;
    else if (!quoted && (letter === "\n" || letter === "\r")) break;
    else if (!quoted && counts.has(letter)) counts.set(letter, counts.get(letter)! + 1);
  }
  return [...counts].sort(([, a], [, b]) => b - a)[0][0];
}

/** So many rows are looked at to find out what a column holds. */
const ROWS_LOOKED_AT = 50;
const NUMBER = /^[\d\s.,#-]+$/;

/** What every filled cell of a column must be, where its name says nothing. */
const LOOKS_LIKE: Partial<Record<ReportColumn, (cell: string) => boolean>> = {
  mail: (cell) => MAIL.safeParse(cell).success,
  receivedOn: (cell) => writtenDay(cell) !== null,
  title: (cell) => !NUMBER.test(cell) && cell.length <= LONGEST_TITLE,
};

/**
 * The columns that most likely say what a report says: first by their very names, then by words
 * that they begin with, then by what stands in them.
 */
export function matchColumns({ header, rows }: Pick<Table, "header" | "rows">): ColumnMatch {
  const names = header.map((name) => name.trim().toLowerCase());
  const match: ColumnMatch = {
    title: null,
    happened: null,
    reproduce: null,
    place: null,
    mail: null,
    receivedOn: null,
  };
  const take = (
    columns: readonly ReportColumn[],
    fits: (c: ReportColumn, i: number) => boolean,
  ) => {
    for (const column of columns) {
      const taken = Object.values(match);
      const at = names.findIndex((_, i) => !taken.includes(i) && fits(column, i));
      if (match[column] === null && at >= 0) match[column] = at;
    }
  };
  take(REPORT_COLUMNS, (column, i) => names[i] === COLUMN_WORDS[column]);
  take(REPORT_COLUMNS, (column, i) => LIKELY[column].test(names[i]));
  take(["mail", "receivedOn", "title"], (column, i) => {
    const cells = rows.slice(0, ROWS_LOOKED_AT).map((row) => row[i]?.trim() ?? "");
    const filled = cells.filter((cell) => cell !== "");
    return filled.length > 0 && filled.every(LOOKS_LIKE[column]!);
  });
  return match;
}

export const importedReportSchema = z.object({
  title: z
    .string()
    .trim()
    .min(1, "It says nothing in the column for a few words.")
    .max(LONGEST_TITLE, "Its few words are more than 200 characters."),
  happened: z.string().trim().max(10_000, "What happened is more than 10,000 characters."),
  reproduce: z
    .string()
    .trim()
    .max(10_000, "How to make it happen again is more than 10,000 characters."),
  place: z.string().trim().max(200, "Where it was is more than 200 characters."),
  mail: z
    .string()
    .max(200, "Its mail address is more than 200 characters.")
    .refine((mail) => mail === "" || MAIL.safeParse(mail).success, {
      error: ({ input }) => `“${cutText(String(input), 60)}” is no mail address.`,
    }),
  /** The ISO 8601 day on which it came, in the project's zone; null: now. */
  receivedOn: z.iso.date().nullable().default(null),
});
export type ImportedReport = z.infer<typeof importedReportSchema>;

export interface RowProblem {
  /** The line of the file, the first being 1. */
  row: number;
  sentence: string;
  cells: readonly string[];
}

/** The day of a cell, or what is wrong with it. */
function dayOf(cell: string, today: string): { day: string | null; problem: string | null } {
  if (cell === "") return { day: null, problem: null };
  const day = writtenDay(cell);
  if (day === null)
    return {
      day,
      problem: `“${cutText(cell, 40)}” is no day that can be read. Write it as 2026-11-23 or 23.11.2026.`,
    };
  return { day, problem: day > today ? `${day} is still to come.` : null };
}

/**
 * The reports of a table, in its order; rows that are none, and those that say what one before them
 * said, are told and left out.
 * @param today the ISO 8601 day of today, after which nothing can have come
 */
export function reportsOf(
  { rows, lines }: Table,
  match: ColumnMatch,
  today: string,
): { reports: { row: number; report: ImportedReport }[]; problems: RowProblem[] } {
  const reports: { row: number; report: ImportedReport }[] = [];
  const problems: RowProblem[] = [];
  const seen = new Map<string, number>();
  for (const [i, cells] of rows.entries()) {
    const cell = (column: ReportColumn) =>
      match[column] === null ? "" : (cells[match[column]] ?? "").trim();
    const title = cell("title");
    const { day, problem } = dayOf(cell("receivedOn"), today);
    const parsed = importedReportSchema.safeParse({
      title,
      happened: cell("happened") || title,
      reproduce: cell("reproduce"),
      place: cell("place"),
      mail: cell("mail"),
      receivedOn: day,
    });
    const said = JSON.stringify(parsed.data ?? null);
    const twin = seen.get(said);
    const wrong =
      parsed.error?.issues[0].message ??
      problem ??
      (twin === undefined ? null : `It says the same as line ${twin}.`);
    if (wrong !== null) problems.push({ row: lines[i], sentence: wrong, cells });
    else if (parsed.success) {
      seen.set(said, lines[i]);
      reports.push({ row: lines[i], report: parsed.data });
    }
  }
  return { reports, problems };
}

/**
 * The rows that were left out, as a table (RFC 4180) to be mended and read again: as they came, with
 * what is wrong in a last column. What a spreadsheet would compute is written as text.
 */
export function leftOutTable(table: Table, problems: readonly RowProblem[]): string {
  const width = Math.max(table.header.length, ...problems.map((p) => p.cells.length));
  const filled = (cells: readonly string[]) =>
    Array.from({ length: width }, (_, i) => cells[i] ?? "");
  return writeCsv([
    [...filled(table.header), "what is wrong"],
    ...problems.map(({ cells, sentence }) => [...filled(cells), sentence]),
  ]);
}
