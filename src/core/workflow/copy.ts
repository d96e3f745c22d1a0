import { isRead, type Condition } from "@/core/condition/condition";
import type { Workflow } from "./workflow";
import type { Policy, StateId } from "./state";

/**
 * The same process with ids of its own, so that it can stand beside the one it was made from.
 * @param newId gives a fresh id at each call
 */
export function copyOf(workflow: Workflow, newId: () => string, name = workflow.name): Workflow {
  const stateIds = new Map(workflow.states.map((s) => [s.id, newId()]));
  const idOf = (id: StateId) => stateIds.get(id) ?? id;
  const policies = (list: readonly Policy[]) => list.map((p) => ({ ...p, id: newId() }));
  return {
    id: newId(),
    name,
    version: 1,
    states: workflow.states.map((s) => ({
      ...s,
      id: idOf(s.id),
      entryPolicies: policies(s.entryPolicies),
      exitPolicies: policies(s.exitPolicies),
    })),
    transitions: workflow.transitions.map((t) => ({
      ...t,
      id: newId(),
      from: t.from?.map(idOf) ?? null,
      to: idOf(t.to),
      requirements: t.requirements.map((r) =>
        r.kind === "condition" && isRead(r.condition)
          ? { ...r, condition: withStates(r.condition, idOf) }
          : r,
      ),
    })),
  };
}

/** A condition that means the copy's states where it meant the original's. */
function withStates(condition: Condition, idOf: (id: StateId) => StateId): Condition {
  if (condition.kind === "not") return { kind: "not", of: withStates(condition.of, idOf) };
  if (condition.kind !== "compare")
    return { ...condition, of: condition.of.map((c) => withStates(c, idOf)) };
  if (condition.fact !== "stateId" && condition.fact !== "everIn") return condition;
  const { value } = condition;
  return {
    ...condition,
    value: typeof value === "string" ? idOf(value) : Array.isArray(value) ? value.map(idOf) : value,
  };
}
