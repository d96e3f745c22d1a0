"use client";
import { useQueryClient } from "@tanstack/react-query";
import type { BoardView } from "@/core/board/board-view";
import { stagesOf, type Column } from "@/core/board/column";
import { boardContract } from "@/core/board/contract";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf } from "@/ui/kit/request";
import { boardKey } from "./use-board";

/** Puts the columns of a stage before those of another; all of them, at once for everybody. */
export function useColumnOrder(view: BoardView, columns: readonly Column[]) {
  const client = useQueryClient();
  const params = { key: view.project.key };
  return async (columnId: string, onto: string | undefined) => {
    const groups =
      view.board.columnsBy === "state"
        ? stagesOf(columns).map((s) => s.columns)
        : columns.map((c) => [c]);
    const groupOf = (id?: string) => groups.findIndex((g) => g.some((c) => c.id === id));
    const from = groupOf(columnId);
    const to = groupOf(onto);
    if (from < 0 || to < 0 || from === to) return;
    const next = [...groups];
    next.splice(to, 0, ...next.splice(from, 1));
    const ordered = next.flat().map((c, position) => ({ ...c, position }));
    client.setQueryData<BoardView>(boardKey(view), (b) => b && { ...b, columns: ordered });
    const columnIds = ordered.map((c) => c.id);
    try {
      await ask(boardContract.change, {
        params,
        body: { kind: "order columns", boardId: view.board.id, columnIds },
      });
    } catch (error) {
      tellProblem(error);
      await client.invalidateQueries({ queryKey: keyOf(boardContract.read, { params }) });
    }
  };
}
