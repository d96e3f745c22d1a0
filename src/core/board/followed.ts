import type { Workflow } from "@/core/workflow/workflow";
import { isInProgress, type State } from "@/core/workflow/state";
import type { Column } from "./column";

/** The workflows that a board by states follows: those of which a column covers a state. */
export function followedWorkflows(
  workflows: readonly Workflow[],
  columns: readonly Pick<Column, "stateIds">[],
): Workflow[] {
  const covered = new Set(columns.flatMap((c) => c.stateIds));
  return workflows.filter((w) => w.states.some((s) => covered.has(s.id)));
}

/**
 * States in progress of the workflows that a board follows that none of its columns covers: what
 * stands there is on no place of the board.
 */
export function uncoveredStates(
  workflows: readonly Workflow[],
  columns: readonly Pick<Column, "stateIds">[],
): State[] {
  const covered = new Set(columns.flatMap((c) => c.stateIds));
  return followedWorkflows(workflows, columns).flatMap((w) =>
    w.states.filter((s) => isInProgress(s.kind) && !covered.has(s.id)),
  );
}
