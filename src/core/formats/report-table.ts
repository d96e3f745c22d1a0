import { parse } from "csv-parse/sync";
import { z } from "zod";
import { FileProblem, LARGEST_FILE } from "./xml";

/** What a report can say, and by which words a column is likely to mean it. */
export const REPORT_COLUMNS = ["title", "happened", "reproduce", "place", "mail"] as const;
export type ReportColumn = (typeof REPORT_COLUMNS)[number];

export const COLUMN_WORDS: Record<ReportColumn, string> = { title: "in a few words", happened: "what happened", reproduce: "how to make it happen again", place: "where", mail: "mail address" };

const LIKELY: Record<ReportColumn, RegExp> = {
  title: /^(title|subject|summary|name|headline|what|issue|problem)\b/i,
  happened: /^(what happened|happened|description|details?|text|body|message|notes?|comment)\b/i,
  reproduce: /^(steps|how to|reproduc|repro)/i,
  place: /^(where|place|location|page|quay|boat|screen|area)\b/i,
  mail: /^(e-?mail|mail|from|reporter|contact|address)\b/i,
};

/** Which column of a table, counted from 0, says what; null where none does. */
export type ColumnMatch = Record<ReportColumn, number | null>;

export interface Table {
  header: string[];
  rows: string[][];
}

export const MOST_ROWS = 5_000;

/**
 * Reads a table of comma-separated values (RFC 4180: quoted fields, doubled quotes, line breaks inside; semicolons and tabs as
 * separators are understood too, and a byte order mark). The first line names the columns.
 * @throws FileProblem when it is no such table, too large or too long
 */
export function readTable(text: string): Table {
  if (text.length > LARGEST_FILE) throw new FileProblem("The file is larger than 5 MB.");
  if (text.includes("\u0000")) throw new FileProblem("This is no text file.");
  const firstLine = /^[^\r\n]*/.exec(text)![0];
  const delimiter = [",", ";", "\t"].map((d) => ({ d, n: firstLine.split(d).length })).sort((a, b) => b.n - a.n)[0].d;
  let lines: string[][];
  try {
    lines = parse(text, { bom: true, delimiter, skip_empty_lines: true, relax_column_count: true, to: MOST_ROWS + 2 }) as string[][];
  } catch (error) {
    throw new FileProblem(`The table cannot be read: ${(error as Error).message.replace(/\.$/, "")}.`);
  }
  const [header, ...rows] = lines;
  if (!header || rows.length === 0) throw new FileProblem("The file has no rows beneath its first line, which names the columns.");
  if (rows.length > MOST_ROWS) throw new FileProblem(`The table has more than ${MOST_ROWS.toLocaleString("en")} rows. Import it in parts.`);
  return { header: header.map((h) => h.trim()), rows };
}

/** The columns that most likely say what a report says. */
export function matchColumns(header: readonly string[]): ColumnMatch {
  const taken = new Set<number>();
  const match = {} as ColumnMatch;
  for (const column of REPORT_COLUMNS) {
    const at = header.findIndex((h, i) => !taken.has(i) && LIKELY[column].test(h.trim()));
    match[column] = at < 0 ? null : at;
    if (at >= 0) taken.add(at);
  }
  return match;
}

export const importedReportSchema = z.object({
  title: z.string().trim().min(1, "It says nothing in the column for a few words.").max(200, "Its few words are more than 200 characters."),
  happened: z.string().trim().max(10_000, "What happened is more than 10,000 characters."),
  reproduce: z.string().trim().max(10_000, "How to make it happen again is more than 10,000 characters."),
  place: z.string().trim().max(200, "Where it was is more than 200 characters."),
  mail: z.union([z.literal(""), z.email("Its mail address is none.").max(200)]),
});
export type ImportedReport = z.infer<typeof importedReportSchema>;

export interface RowProblem {
  /** As a person counts the lines of the table, the header being line 1. */
  row: number;
  sentence: string;
}

/** The reports of a table, row by row; rows that are none are told and left out. */
export function reportsOf({ rows }: Table, match: ColumnMatch): { reports: { row: number; report: ImportedReport }[]; problems: RowProblem[] } {
  const reports: { row: number; report: ImportedReport }[] = [];
  const problems: RowProblem[] = [];
  for (const [i, cells] of rows.entries()) {
    const cell = (column: ReportColumn) => (match[column] === null ? "" : (cells[match[column]] ?? "").trim());
    const title = cell("title");
    const parsed = importedReportSchema.safeParse({ title, happened: cell("happened") || title, reproduce: cell("reproduce"), place: cell("place"), mail: cell("mail") });
    if (parsed.success) reports.push({ row: i + 2, report: parsed.data });
    else problems.push({ row: i + 2, sentence: parsed.error.issues[0].message });
  }
  return { reports, problems };
}
