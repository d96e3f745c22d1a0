import { changeState, changeTransition, removeState } from "./edit";
import { withoutOwnField } from "./field-in-rules";
import { withoutTeam } from "./team-in-rules";
import type { DraftRepair } from "./finding";
import { PLAIN_TRANSITION, type Workflow } from "./workflow";

/** The workflow after a repair. */
export function repair(
  workflow: Workflow,
  { repair: how }: { repair: DraftRepair },
  newId: () => string,
): Workflow {
  switch (how.kind) {
    case "add move":
      return {
        ...workflow,
        transitions: [
          ...workflow.transitions,
          { id: newId(), from: [how.from], to: how.to, verb: how.verb, ...PLAIN_TRANSITION },
        ],
      };
    case "remove state":
      return removeState(workflow, how.stateId);
    case "change state":
      return changeState(workflow, how.stateId, how.change);
    case "change move":
      return changeTransition(workflow, how.transitionId, how.change);
    case "take team off":
      return withoutTeam(workflow, how.teamId);
    case "take field off":
      return withoutOwnField(workflow, how.fieldId);
    case "remove requirement":
      return {
        ...workflow,
        transitions: workflow.transitions.map((t) =>
          t.id === how.transitionId
            ? { ...t, requirements: t.requirements.filter((_, i) => i !== how.index) }
            : t,
        ),
      };
  }
}
