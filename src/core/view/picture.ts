/*
 * What a look shows, as much of it as a small picture holds.
 */

/** So many pictures are asked for at a time. */
export const MOST_PICTURES = 3;

/** So many items, groups and columns a picture draws. */
export const PICTURE_ROWS = 5;
export const PICTURE_GROUPS = 6;
export const PICTURE_COLUMNS = 9;
export const PICTURE_LANES = 6;

export type Picture = {
  /** How many items the look shows. */
  total: number;
} & (
  | {
      kind: "board";
      columns: { name: string; working: boolean }[];
      /** How many items each lane has in each column; one lane without a name where there are none. */
      lanes: { name: string; counts: number[] }[];
    }
  | { kind: "groups"; groups: { label: string; count: number }[] }
  | { kind: "rows"; rows: { key: string; title: string; value: string }[] }
);
