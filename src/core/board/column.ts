import type { Days } from "@/core/calendar/instant";
import type { FlowTimes } from "@/core/flow/time-in-state";
import type { StateId, StateKind } from "@/core/workflow/state";

/** Whether a column holds work that waits, work that somebody does, or what has finished. */
export type ColumnPart = "waiting" | "working" | "finished";

export interface Column {
  id: string;
  /**
   * The stage, e.g. "Review"; neighbours of one stage are drawn as its waiting and its working
   * part.
   */
  stage: string;
  /** What this part of the stage is called, e.g. "reviewing". */
  name: string;
  part: ColumnPart;
  position: number;
  stateIds: StateId[];
  /** On a board by the values of a field: the value, null for items without one. */
  value?: string | null;
  /** Whether it is shown only to whoever asks for it: nothing of now is in it. */
  aside?: true;
  /** On a board by levels: the types of its level. */
  typeIds?: readonly string[];
}

/** What happens in a column of states of a kind. */
export function partOf(kind: StateKind): ColumnPart {
  return kind === "working" ? "working" : kind === "finished" ? "finished" : "waiting";
}

/** "Review, waiting": how a column is named where its stage is not beside it. */
export function columnWords(column: Pick<Column, "stage" | "name">): string {
  return column.name && column.name !== column.stage
    ? `${column.stage}, ${column.name}`
    : column.stage;
}

/** The columns of one stage that stand side by side. */
export interface StageOfColumns {
  stage: string;
  columns: Column[];
}

/** The columns by their positions, neighbours of one stage together. */
export function stagesOf(columns: readonly Column[]): StageOfColumns[] {
  const stages: StageOfColumns[] = [];
  for (const column of [...columns].sort((a, b) => a.position - b.position)) {
    const last = stages.at(-1);
    if (last && last.stage === column.stage) last.columns.push(column);
    else stages.push({ stage: column.stage, columns: [column] });
  }
  return stages;
}

/**
 * The ladder: the average time recently finished items spent in each column, in days. Columns of
 * finished states have no step, and nobody has one while nothing has finished; a column nobody
 * passed has 0.
 */
export function ladder(
  columns: readonly Column[],
  { states }: FlowTimes,
  recentlyFinished: number,
): Record<string, Days | null> {
  const average = new Map(states.map((s) => [s.stateId, s.average]));
  return Object.fromEntries(
    columns.map((column) => [
      column.id,
      column.part === "finished" || recentlyFinished === 0
        ? null
        : column.stateIds.reduce((sum, id) => sum + (average.get(id) ?? 0), 0),
    ]),
  );
}
