import type { Card } from "@/core/board/card";
import type { LaneField } from "@/core/board/lane";

/** What the board shows and how it is divided. */
export interface BoardFilter {
  text: string;
  typeId: string;
  /** "", a person's id, or "nobody". */
  assigneeId: string;
  lanes: LaneField;
}

export const NO_FILTER: BoardFilter = { text: "", typeId: "", assigneeId: "", lanes: "none" };

export function matches(card: Card, filter: BoardFilter): boolean {
  const text = filter.text.trim().toLowerCase();
  return (
    (!text || card.title.toLowerCase().includes(text) || card.key.toLowerCase().includes(text)) &&
    (!filter.typeId || card.typeId === filter.typeId) &&
    (!filter.assigneeId ||
      (filter.assigneeId === "nobody"
        ? card.assigneeId === null
        : card.assigneeId === filter.assigneeId))
  );
}

export const isFiltered = (f: BoardFilter) =>
  f.text.trim() !== "" || f.typeId !== "" || f.assigneeId !== "";
