import type { Workflow } from "@/core/workflow/workflow";
import { isInProgress, type State, type StateId } from "@/core/workflow/state";
import type { ItemType } from "@/core/item/item-type";
import type { Column } from "./column";

/** What a board by states shows, and what the other boards of its project show. */
export interface Showing {
  workflows: readonly Workflow[];
  columns: readonly Pick<Column, "stateIds">[];
  shownElsewhere: readonly StateId[];
  types: readonly Pick<ItemType, "workflowId" | "level">[];
}

/**
 * The workflows that a board by states answers for: those of which a column covers a state, and
 * those of which no board does, so that nobody loses sight of their items. Tasks are seen at the
 * item that they are a part of.
 */
export function followedWorkflows({
  workflows,
  columns,
  shownElsewhere,
  types,
}: Showing): Workflow[] {
  const covered = new Set(columns.flatMap((c) => c.stateIds));
  const elsewhere = new Set(shownElsewhere);
  const standsAlone = (w: Workflow) => types.some((t) => t.workflowId === w.id && t.level >= 1);
  return workflows.filter(
    (w) =>
      w.states.some((s) => covered.has(s.id)) ||
      (standsAlone(w) && !w.states.some((s) => elsewhere.has(s.id))),
  );
}

/**
 * States in progress of the workflows that a board answers for that none of its columns covers:
 * what stands there is on no place of the board.
 */
export function uncoveredStates(showing: Showing): State[] {
  const covered = new Set(showing.columns.flatMap((c) => c.stateIds));
  return followedWorkflows(showing).flatMap((w) =>
    w.states.filter((s) => isInProgress(s.kind) && !covered.has(s.id)),
  );
}
