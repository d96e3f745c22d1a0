import { factsIn, isRead } from "@/core/condition/condition";
import { ownFieldOf } from "@/core/condition/facts";
import type { FollowUp } from "./follow-ups/table";
import { demandedOwnField } from "./requirement";
import type { Requirement } from "./requirements/table";
import type { Transition, Workflow } from "./workflow";

/** The own fields that a requirement cannot be met without. */
function ownFieldsDemanded(r: Requirement): string[] {
  if (r.kind === "filled") return [demandedOwnField(r.field) ?? []].flat();
  if (r.kind !== "condition" || !isRead(r.condition)) return [];
  return [...factsIn(r.condition)].flatMap((fact) => ownFieldOf(fact)?.id ?? []);
}

const setsOwn = (f: FollowUp): string[] =>
  f.kind === "set field" && f.change.field === "own" ? [f.change.fieldId] : [];

/** The own fields that a move names: in what it demands, and in what follows. */
export const ownFieldsOfMove = ({ requirements, followUps }: Transition): string[] => [
  ...new Set([...requirements.flatMap(ownFieldsDemanded), ...followUps.flatMap(setsOwn)]),
];

/** The own fields that have to be filled in before a move. */
export const ownFieldsToFill = ({ requirements }: Transition): string[] =>
  requirements.flatMap((r) => (r.kind === "filled" ? ownFieldsDemanded(r) : []));

/** A workflow whose rules name an own field nowhere. */
export const withoutOwnField = (workflow: Workflow, fieldId: string): Workflow => ({
  ...workflow,
  transitions: workflow.transitions.map((t) => ({
    ...t,
    requirements: t.requirements.filter((r) => !ownFieldsDemanded(r).includes(fieldId)),
    followUps: t.followUps.filter((f) => !setsOwn(f).includes(fieldId)),
  })),
});
