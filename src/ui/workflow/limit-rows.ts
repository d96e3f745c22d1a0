import {
  limitOfColumn,
  limitsOfBoard,
  limitsOfStates,
  narrowLimitsOf,
  type CountedLimit,
} from "@/core/board/board-limits";
import { columnWords } from "@/core/board/column";
import { isAllowance, type LimitedField } from "@/core/board/limited";
import type { LimitRequest } from "@/core/board/request";
import type { BoardDesign, DesignView } from "@/core/workflow/design-view";

/** What a limit of a board is on, whether it has one or not. */
export interface LimitRow {
  id: string;
  name: string;
  on: LimitRequest["on"];
  of: { field: LimitedField; value: string } | null;
  limit: CountedLimit | null;
  /** What is there, where no limit counts it. */
  holds: number;
  /** Stands below what it is a part of. */
  part: boolean;
}

type Limited = Pick<LimitRow, "on" | "of" | "name"> & { limit: CountedLimit | null };
const partOf = ({ field, value }: CountedLimit) => ({ field: field!, value: value! });

/**
 * Where a board has limits, and could have some: its columns in progress with their states, parts
 * that were given one, all that is in progress, and the allowance for expedite items.
 */
export function limitRows(view: DesignView, board: BoardDesign): LimitRow[] {
  const nameOf = (id: string) => view.around.vocabulary.states.find((s) => s.id === id)?.name ?? id;
  const holds = (stateIds: readonly string[]) =>
    stateIds.reduce((sum, id) => sum + (view.counts[id] ?? 0), 0);
  const { limits } = view;
  const columns = board.columns.filter((c) => c.part !== "finished");
  const ofColumns = columns.flatMap((column): LimitRow[] => {
    const { id: columnId, stateIds } = column;
    const states = stateIds.length > 1 ? stateIds : [];
    const ofStates = limitsOfStates(limits, column);
    return [
      {
        id: columnId,
        name: columnWords(column),
        on: { kind: "column", columnId },
        of: null,
        limit: limitOfColumn(limits, column),
        holds: holds(stateIds),
        part: false,
      },
      ...states.map((stateId): LimitRow => ({
        id: stateId,
        name: nameOf(stateId),
        on: { kind: "column", columnId, stateId },
        of: null,
        limit: ofStates.find((l) => l.ownerId === stateId) ?? null,
        holds: view.counts[stateId] ?? 0,
        part: true,
      })),
      ...narrowLimitsOf(limits, column).map((limit): LimitRow => ({
        id: limit.id,
        name: limit.name,
        on: { kind: "column", columnId },
        of: partOf(limit),
        limit,
        holds: limit.count,
        part: true,
      })),
    ];
  });
  const over = limitsOfBoard(limits.filter((l) => l.ownerId === board.id));
  const all = columns.flatMap((column) => column.stateIds);
  const wide = (one: Limited, part = false): LimitRow => ({
    id: one.of ? `${board.id} ${one.of.field} ${one.of.value}` : board.id,
    ...one,
    holds: one.limit?.count ?? holds(all),
    part,
  });
  const on = { kind: "board" } as const;
  const expedite = { field: "classOfService", value: "expedite" } as const;
  const parts = over.filter((l) => l.field !== null && !isAllowance(l));
  return [
    ...ofColumns,
    wide({
      name: "Everything in progress",
      on,
      of: null,
      limit: over.find((l) => l.field === null) ?? null,
    }),
    ...parts.map((limit) => wide({ name: limit.name, on, of: partOf(limit), limit }, true)),
    wide({
      name: "Expedite, the allowance",
      on,
      of: expedite,
      limit: over.find(isAllowance) ?? null,
    }),
  ].map((row) => (row.of === expedite && row.limit === null ? { ...row, holds: 0 } : row));
}
