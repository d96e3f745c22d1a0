"use client";
import { useMemo } from "react";
import {
  limitOfColumn,
  limitOfPerson,
  limitsOfStates,
  narrowLimitsOf,
  passing,
  withItems,
  type CountedLimit,
} from "@/core/board/board-limits";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { CountingBy } from "@/core/board/limited";

/** How many items a column counts that this person may not see. */
export const unseenIn = (view: BoardView, column: Pick<Column, "stateIds">): number =>
  column.stateIds.reduce((sum, id) => sum + (view.hidden[id] ?? 0), 0);

/** What stands against the limit of a column. */
export interface ColumnHeld {
  limit: CountedLimit | null;
  /** Without a limit: all that it holds. */
  count: number;
  /** Expedite items that go past it. */
  outside: number;
  /** What counts against it and stands not on this board. */
  notShown: number;
  /** The limits of its states, and of some of its items. */
  within: CountedLimit[];
}

interface Standing {
  onBoard: readonly Card[];
  columns: readonly Column[];
  columnOf: (card: Card) => Column | null;
  /** How many each column holds. */
  counts: Readonly<Record<string, number>>;
}

/** The limits of a board with all that counts against them, and how that is counted. */
export function useBoardLimits(view: BoardView, { onBoard, columns, columnOf, counts }: Standing) {
  const { limits, types, workflows, defaultSize } = view;
  const counting = useMemo((): CountingBy => {
    const levels = new Map(types.map(({ id, level }) => [id, level]));
    const states = workflows.flatMap((w) => w.states);
    return {
      levelOf: (typeId) => levels.get(typeId),
      byReviewer: new Set(states.filter((s) => s.byReviewer).map((s) => s.id)),
      defaultSize,
    };
  }, [types, workflows, defaultSize]);
  const whole = useMemo(
    () => limits.map((limit) => withItems(limit, onBoard, counting)),
    [limits, onBoard, counting],
  );
  const held = useMemo(() => {
    const besides = new Map(limits.map(({ id, count }) => [id, count]));
    const expedite = onBoard.filter((card) => card.classOfService === "expedite");
    return new Map(
      columns.map((column): [string, ColumnHeld] => {
        // Of a board by people a column has the limit of the person.
        const person = view.board.columnsBy === "assignee" && column.value;
        const limit = person ? limitOfPerson(whole, person) : limitOfColumn(whole, column);
        const beside = limit === null ? 0 : (besides.get(limit.id) ?? 0);
        return [
          column.id,
          {
            limit,
            count: limit?.count ?? counts[column.id] ?? 0,
            outside: passing(
              limit,
              expedite.filter((card) => columnOf(card) === column),
              counting,
            ),
            notShown: view.board.scoped ? Math.max(0, beside - unseenIn(view, column)) : 0,
            within: [...limitsOfStates(whole, column), ...narrowLimitsOf(whole, column)],
          },
        ];
      }),
    );
  }, [view, limits, whole, onBoard, columns, columnOf, counts, counting]);
  return { limits: whole, counting, held };
}
