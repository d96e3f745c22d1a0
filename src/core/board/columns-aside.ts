import { sprintWords, type Listed, type Release, type Sprint } from "@/core/plan/sprint";
import type { Card } from "./card";
import type { Column } from "./column";
import { valueOf, type ValueField } from "./columns-by";

/** What there is of time boxes, to tell which of them matter now. */
interface Boxes {
  sprints: readonly Listed<Sprint>[];
  releases: readonly Listed<Release>[];
}

/**
 * The columns of a board by a field's values, those that matter little set aside: sprints beside the
 * one that runs, the one before and the one after, and releases that are out, unless something open
 * is in them.
 * @param cards what stands on the board
 * @param today ISO 8601 date
 */
export function columnsAside(
  columns: readonly Column[],
  {
    by,
    cards,
    boxes,
    today,
  }: { by: ValueField; cards: readonly Card[]; boxes: Boxes; today: string },
): Column[] {
  if (by !== "sprint" && by !== "release") return [...columns];
  const { current, next, previous } = sprintWords(boxes.sprints, today);
  const out = new Set(boxes.releases.flatMap(({ id, past }) => (past ? [id] : [])));
  const used = new Set(cards.map((card) => valueOf(by, card)));
  const known = new Set((by === "sprint" ? boxes.sprints : boxes.releases).map(({ id }) => id));
  const matters = (value: string): boolean =>
    by === "sprint" ? [current, next, previous].includes(value) : !out.has(value);
  return columns.map((column) => {
    const { value } = column;
    if (!value || !known.has(value) || used.has(value) || matters(value)) return column;
    return { ...column, aside: true };
  });
}
