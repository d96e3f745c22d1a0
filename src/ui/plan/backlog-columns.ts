import { factOf } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { BacklogColumn } from "@/core/plan/backlog-look";
import { drawnColumns, usualWidth } from "@/ui/table/columns";

/** Rows of a backlog are narrow: the title is what is read first. */
const NARROW: Partial<Record<string, number>> = {
  parent: 140,
  priority: 68,
  severity: 68,
  estimate: 48,
  dueOn: 84,
  typeId: 76,
};
const PEOPLE_WIDTH = 112;

/** A column of a backlog as it is drawn. */
export interface DrawnBacklogColumn {
  column: BacklogColumn;
  name: string;
  width: number;
  /** Figures stand right. */
  figures: boolean;
  /** Whether it stays where there is little room. */
  stays: boolean;
}

function widthOf(column: BacklogColumn): number {
  const narrow = NARROW[column];
  if (narrow !== undefined || column === "parent") return narrow ?? 0;
  if (factOf(column).options === "people") return PEOPLE_WIDTH;
  return usualWidth(column) - 18;
}

/** What a column is called. */
export function columnName(column: BacklogColumn, vocabulary: Vocabulary): string {
  if (column === "parent") return "Under";
  if (column === "estimate") return "Size";
  return drawnColumns([{ fact: column, width: null }], vocabulary)[0].label;
}

/** What each row has beside its title and its columns. */
const FIXED = 266;
const LEAST_TITLE = 236;
const GAP = 8;

/** So wide the rows are at least, where there is room for their columns at all. */
export const leastRowWidth = (columns: readonly DrawnBacklogColumn[]): number =>
  columns.reduce((sum, { width }) => sum + width + GAP, FIXED + LEAST_TITLE);

export const backlogColumns = (
  columns: readonly BacklogColumn[],
  vocabulary: Vocabulary,
): DrawnBacklogColumn[] =>
  columns.map((column) => ({
    column,
    name: columnName(column, vocabulary),
    width: widthOf(column),
    figures: column !== "parent" && factOf(column).kind === "number",
    stays: column === "estimate",
  }));
