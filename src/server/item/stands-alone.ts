import { stateOf, transitionBetween, type Workflow } from "@/core/workflow/workflow";
import type { ItemSnapshot } from "@/core/item/fields";
import type { StateId } from "@/core/workflow/state";
import type { Ask, Entered } from "./errand";

/**
 * Whether an errand is decided by its own item, and what does not change with others, and means
 * nothing for others: then it makes no difference whether those before it are stored already. In
 * doubt it does not stand alone.
 */
export function standsAlone(ask: Ask, { before, workflow }: Entered): boolean {
  if (before === null) return false;
  switch (ask.kind) {
    case "edit":
      return !("outcome" in ask.changes);
    case "comment":
    case "edit comment":
    case "take back comment":
    case "close talk":
    case "tick":
    case "meet":
    case "approve":
    case "ready":
    case "lift":
    case "record time":
    case "remove time":
      return true;
    case "block":
      return ask.dependencyId == null;
    case "move":
      return keepsOpen(before, ask.to, workflow) && isPlain(before, ask.to, workflow);
    case "prepared":
      if (ask.command.kind === "place in state") return keepsOpen(before, ask.command.to, workflow);
      return ask.command.kind === "rank" || ask.command.kind === "report";
    case "create":
    case "place":
    case "put under":
    case "ask":
    case "link":
    case "unlink":
    case "undo":
    case "remove file":
    case "put file back":
    case "withdraw":
    case "bring back":
    case "change type":
    case "change project":
      return false;
  }
}

/** Whether it is neither finished nor reopened, of which those hear that wait for it. */
const keepsOpen = ({ stateKind }: ItemSnapshot, to: StateId, workflow: Workflow): boolean =>
  stateKind !== "finished" &&
  workflow.states.some(({ id }) => id === to) &&
  stateOf(workflow, to).kind !== "finished";

/** Whether a move asks for nothing around the item, and nothing follows from it. */
function isPlain({ stateId }: ItemSnapshot, to: StateId, workflow: Workflow): boolean {
  const transition = transitionBetween(workflow, stateId, to);
  if (!transition) return true;
  const { requirements, followUps } = transition;
  return (
    followUps.length === 0 &&
    requirements.every(({ kind }) => kind !== "condition" && kind !== "sub-tasks finished")
  );
}
