import { stringify } from "csv-stringify/sync";

/**
 * Rows as comma-separated values by RFC 4180: lines end in CRLF; fields with commas, quotation marks
 * or line breaks are quoted. What a spreadsheet would compute is written as text.
 */
export const writeCsv = (rows: readonly (readonly string[])[]): string =>
  stringify(rows as string[][], {
    record_delimiter: "windows",
    escape_formulas: true,
    quoted_match: /[\r\n]/,
  });

/** Cells as lines of tab-separated text: what would begin another cell or line is a space. */
export const writeTabs = (rows: readonly (readonly string[])[]): string =>
  rows.map((cells) => cells.map((cell) => cell.replace(/[\t\r\n]+/g, " ")).join("\t")).join("\n");
