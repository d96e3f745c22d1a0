import { uncoveredStates, type Showing } from "./followed";
import type { StateId } from "@/core/workflow/state";

/** What a board is about and none of its columns shows. */
export interface Astray {
  itemIds: string[];
  /** The names of the states where they are. */
  states: string[];
  /** Workflows with states among them that no board shows: those can be put on. */
  workflowIds: string[];
}

/** Which items stand in no column of a board, and of which workflows the board could show more. */
export function astrayOf(
  showing: Showing,
  items: readonly { id: string; stateId: StateId }[],
): Astray {
  const uncovered = uncoveredStates(showing);
  const there = items.filter((i) => uncovered.some((s) => s.id === i.stateId));
  const states = uncovered.filter((s) => there.some((i) => i.stateId === s.id));
  const elsewhere = new Set(showing.shownElsewhere);
  const nowhere = new Set(states.filter((s) => !elsewhere.has(s.id)).map((s) => s.id));
  return {
    itemIds: there.map((i) => i.id),
    states: states.map((s) => s.name),
    workflowIds: showing.workflows
      .filter((w) => w.states.some((s) => nowhere.has(s.id)))
      .map((w) => w.id),
  };
}
