import { z } from "zod";

/**
 * What somebody has folded away of a view or a board: nobody else sees it so, and no view says it.
 */
export interface Folds {
  /** Lanes of which only the head is shown. */
  lanes: readonly string[];
  /** Columns that are a strip. */
  columns: readonly string[];
  /** Columns that are not shown. */
  hidden: readonly string[];
}

export const NOTHING_FOLDED: Folds = { lanes: [], columns: [], hidden: [] };

const ids = z.array(z.string().min(1).max(200)).max(200).readonly();

export const foldsSchema = z.object({ lanes: ids, columns: ids, hidden: ids });

/** Something folded, or unfolded. */
export const turned = (folded: readonly string[], id: string): string[] =>
  folded.includes(id) ? folded.filter((one) => one !== id) : [...folded, id];
