"use client";
import { useMemo } from "react";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { ColumnMoves } from "./use-columns";

/** While a card is lifted: whether each column can take it, and which one it is held over. */
export interface Targets {
  columns: Record<string, "allowed" | "closed">;
  over: string | null;
}

export function useTargets(
  columns: readonly Column[],
  lifted: Card | undefined,
  over: string | null = null,
  { stands, canEnter }: Pick<ColumnMoves, "stands" | "canEnter">,
): Targets {
  return useMemo(() => {
    const takes = (card: Card, column: Column) =>
      stands(card, column) || canEnter(card, column) ? "allowed" : "closed";
    return {
      columns: lifted
        ? Object.fromEntries(columns.map((column) => [column.id, takes(lifted, column)]))
        : {},
      over,
    };
  }, [columns, lifted, over, stands, canEnter]);
}
