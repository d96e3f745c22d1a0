import { requirementsOf } from "@/core/workflow/decide-move";
import type { StateId } from "@/core/workflow/state";
import { stateOf, transitionsFrom, type Workflow } from "@/core/workflow/workflow";

/**
 * Where an item comes to when it is finished as delivered from where it is; null where no move leads there:
 * those by which it ends otherwise are none.
 */
export function finishingMove(workflow: Workflow, from: StateId): StateId | null {
  const here = stateOf(workflow, from);
  const found = transitionsFrom(workflow, from).find((transition) => {
    const there = stateOf(workflow, transition.to);
    if (there.kind !== "finished") return false;
    const wanted = requirementsOf(transition, here, there).find(({ kind }) => kind === "outcome");
    return !wanted || !("allowed" in wanted) || wanted.allowed.includes("delivered");
  });
  return found?.to ?? null;
}
