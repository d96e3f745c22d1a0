import { refuse } from "../refusal";
import type { Policy, State } from "../state";
import { requirementKind } from "./kind";

/**
 * The policies that a move must see ticked: on leaving where it is and on entering where it goes.
 */
export function policiesOf(from: State, to: State): Policy[] {
  return [...from.exitPolicies, ...to.entryPolicies];
}

export const checklist = requirementKind({
  title: "the agreement is ticked",
  refused: "the agreement was not ticked",
  parameters: {},
  begins: {},
  editors: {},
  words: () => "every point of the agreement is ticked",
  unmet: (_, { before, answers, from, to }) => {
    const ticked = new Set([...before.ticks.map((t) => t.policyId), ...(answers.ticks ?? [])]);
    const open = policiesOf(from, to).filter((p) => !ticked.has(p.id));
    if (open.length === 0) return null;
    return refuse(
      "checklist",
      open.length === 1
        ? "One point of the agreement is open."
        : `${open.length} points of the agreement are open.`,
      "Tick what is true; what is not true is still to be done.",
      [{ field: "ticks", label: "What is true", policies: open }],
    );
  },
});
