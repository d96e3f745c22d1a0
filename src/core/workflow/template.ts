import type { FollowUp } from "./follow-ups/table";
import type { Mover } from "./requirement";
import type { Trigger } from "./trigger";
import { PLAIN_TRANSITION, type Workflow } from "./workflow";
import { PLAIN_STATE, type State, type StateKind } from "./state";
import type { Requirement } from "./requirements/table";

/** A workflow before it has ids. Names stand for themselves. */
export interface WorkflowTemplate {
  name: string;
  /** For whom it is, in a sentence. */
  suits: string;
  states: ({ name: string; kind: StateKind; stage: string | null } & Partial<
    Pick<State, "byReviewer" | "expectedDays" | "tooOldDays" | "limit" | "outcomes">
  > & { entry?: string[]; exit?: string[] })[];
  transitions: {
    from: string | string[] | null;
    to: string;
    verb: string;
    who?: Mover[];
    requirements?: Requirement[];
    followUps?: FollowUp[];
    triggers?: Trigger[];
  }[];
}

/**
 * A workflow made from a template.
 * @param newId gives a fresh id at each call
 * @throws Error when a transition names a state that the template does not have
 */
export function fromTemplate(template: WorkflowTemplate, newId: () => string): Workflow {
  const policies = (texts: string[] = []) => texts.map((text) => ({ id: newId(), text }));
  const states: State[] = template.states.map(({ entry, exit, ...state }, position) => ({
    ...PLAIN_STATE,
    ...state,
    id: newId(),
    position,
    entryPolicies: policies(entry),
    exitPolicies: policies(exit),
  }));
  const idOf = (name: string) => {
    const state = states.find((s) => s.name === name);
    if (!state) throw new Error(`template ${template.name} has no state ${name}`);
    return state.id;
  };
  const transitions = template.transitions.map((t) => ({
    ...PLAIN_TRANSITION,
    ...t,
    id: newId(),
    from: t.from === null ? null : [t.from].flat().map(idOf),
    to: idOf(t.to),
  }));
  return { id: newId(), name: template.name, version: 1, states, transitions };
}
