import { factOf, ownFieldOf, type FactName } from "@/core/condition/facts";
import { factLabel, factUnit, type Vocabulary } from "@/core/condition/vocabulary";
import { isDuration } from "@/core/item/list/group";
import type { ShownField } from "@/core/view/look";

/** A column as it is drawn. */
export interface DrawnColumn {
  fact: FactName;
  label: string;
  width: number;
  /** Figures stand right. */
  figures: boolean;
}

const AGE_WIDTH = 170;
const STATE_WIDTH = 160;
/** What lasts has its mean, with a unit, at the head of a group. */
const DURATION_WIDTH = 136;
const WIDTHS: Record<ReturnType<typeof factOf>["kind"], number> = {
  choice: 118,
  number: 92,
  text: 160,
  date: 124,
  flag: 84,
  set: 150,
};

/** How wide a column usually is. */
export function usualWidth(fact: FactName): number {
  if (fact === "age") return AGE_WIDTH;
  if (fact === "stateId") return STATE_WIDTH;
  if (isDuration(fact)) return DURATION_WIDTH;
  return WIDTHS[factOf(fact).kind] + (ownFieldOf(fact) ? 24 : 0);
}

/** The columns of a look, with their names and the units of their figures. */
export function drawnColumns(fields: readonly ShownField[], vocabulary: Vocabulary): DrawnColumn[] {
  return fields.map(({ fact, width }) => {
    const [label, unit] = [factLabel(fact, vocabulary), factUnit(fact, vocabulary)];
    const name = `${label[0].toUpperCase()}${label.slice(1)}`;
    return {
      fact,
      label: unit === "" || unit === "days" || label.includes(unit) ? name : `${name}, ${unit}`,
      width: width ?? usualWidth(fact),
      figures: factOf(fact).kind === "number" && !(isDuration(fact) && fact === "age"),
    };
  });
}

const CHOOSE = 34;
const KEY = 112;
const NARROWEST_TITLE = 240;

/** The columns of the grid: the mark of a chosen row, key, title, and those of the look. */
export const gridColumns = (columns: readonly DrawnColumn[]): string =>
  [`${CHOOSE}px`, `${KEY}px`, `minmax(${NARROWEST_TITLE}px, 1fr)`]
    .concat(columns.map(({ width }) => `${width}px`))
    .join(" ");

/** So wide a table is at least. */
export const leastWidth = (columns: readonly DrawnColumn[]): number =>
  columns.reduce((sum, { width }) => sum + width, CHOOSE + KEY + NARROWEST_TITLE);

/** The column of the titles. */
export const TITLE = 2;
/** Columns before those of the look. */
export const FIRST_FIELD = 3;
