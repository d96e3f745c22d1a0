"use client";
import { useMemo } from "react";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { Lane } from "@/core/board/lane";
import type { LaneDrops } from "./use-lane-drops";
import type { ColumnMoves } from "./use-columns";

/** While a card is lifted: whether each column can take it, and which one it is held over. */
export interface Targets {
  columns: Record<string, "allowed" | "closed">;
  /** Why lanes do not take it, by their ids. */
  lanes: Record<string, string>;
  over: { columnId: string; laneId: string } | null;
}

export function useTargets({
  columns,
  laneList,
  lifted,
  over,
  goes: { stands, canEnter },
  dropInto,
}: {
  columns: readonly Column[];
  laneList: readonly Lane<Card>[];
  lifted: Card | undefined;
  over: Targets["over"];
  goes: Pick<ColumnMoves, "stands" | "canEnter">;
  dropInto: LaneDrops["dropInto"];
}): Targets {
  return useMemo(() => {
    if (!lifted) return { columns: {}, lanes: {}, over };
    const takes = (card: Card, column: Column) =>
      stands(card, column) || canEnter(card, column) ? "allowed" : "closed";
    const closed = laneList.flatMap((lane) => {
      const drop = dropInto(lifted, lane);
      return drop?.kind === "no" ? [[lane.id, drop.sentence] as const] : [];
    });
    return {
      columns: Object.fromEntries(columns.map((column) => [column.id, takes(lifted, column)])),
      lanes: Object.fromEntries(closed),
      over,
    };
  }, [columns, laneList, lifted, over, stands, canEnter, dropInto]);
}
