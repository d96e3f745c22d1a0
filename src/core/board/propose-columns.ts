import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";
import { partOf, type ColumnPart } from "./column";

/** A column that a board does not have yet. */
export interface ProposedColumn {
  stage: string;
  name: string;
  part: ColumnPart;
  stateIds: StateId[];
}

const PART_WORDS: Record<ColumnPart, string> = {
  waiting: "waiting",
  working: "at work",
  finished: "finished",
};

/**
 * The columns that show workflows on a board: one for each part of a stage that is in progress, in
 * process order, and one for the first finished state. States of several workflows with the same
 * stage and kind share a column.
 */
export function proposeColumns(workflows: readonly Workflow[]): ProposedColumn[] {
  const columns: ProposedColumn[] = [];
  for (const workflow of workflows) {
    let finishedSeen = false;
    for (const state of statesInOrder(workflow)) {
      if (state.kind === "unstarted" || (state.kind === "finished" && finishedSeen)) continue;
      if (state.kind === "finished") finishedSeen = true;
      const part = partOf(state.kind);
      const stage = state.stage ?? state.name;
      const shared = columns.find(
        (c) => c.part === part && (part === "finished" || c.stage === stage),
      );
      if (shared) shared.stateIds.push(state.id);
      else
        columns.push({
          stage,
          name: state.stage && state.stage !== state.name ? PART_WORDS[part] : "",
          part,
          stateIds: [state.id],
        });
    }
  }
  return gathered(columns);
}

const KINDS: readonly [ColumnPart, string][] = [
  ["waiting", "Waiting"],
  ["working", "Worked on"],
  ["finished", "Finished"],
];

/**
 * A column for each kind of state in progress, and one for what has finished: several workflows stand
 * on one board, however their stages are called.
 */
export function columnsByKind(workflows: readonly Workflow[]): ProposedColumn[] {
  const states = workflows.flatMap((workflow) => workflow.states);
  return KINDS.map(([part, stage]) => ({
    stage,
    name: "",
    part,
    stateIds: states
      .filter(({ kind }) => kind !== "unstarted" && partOf(kind) === part)
      .map(({ id }) => id),
  }));
}

/** Parts of one stage stand together, waiting before working; what is finished stands last. */
function gathered(columns: readonly ProposedColumn[]): ProposedColumn[] {
  const stages = [...new Set(columns.filter((c) => c.part !== "finished").map((c) => c.stage))];
  const partOrder: ColumnPart[] = ["waiting", "working", "finished"];
  const inProgress = stages.flatMap((stage) =>
    columns
      .filter((c) => c.stage === stage && c.part !== "finished")
      .sort((a, b) => partOrder.indexOf(a.part) - partOrder.indexOf(b.part)),
  );
  return [...inProgress, ...columns.filter((c) => c.part === "finished")];
}
