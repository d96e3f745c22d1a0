import { factsIn, isRead } from "@/core/condition/condition";
import { ASKED_FIELDS, type EditableField } from "@/core/item/fields";
import type { Workflow } from "./workflow";

/** What the rules of a workflow hold against an item. */
export interface AskedOfItems {
  /** Fields that a condition or a demand names, in the order in which people see them. */
  fields: EditableField[];
  approvals: boolean;
  blockers: boolean;
  openChildren: boolean;
  changes: boolean;
}

/** Everything about an item that decides in some move of a workflow. */
export function askedOfItems({ transitions }: Workflow): AskedOfItems {
  const requirements = transitions.flatMap((t) => t.requirements);
  const kinds = new Set(requirements.map((r) => r.kind));
  const facts = new Set<string>(
    requirements.flatMap((r) => {
      if (r.kind === "filled") return [r.field];
      return r.kind === "condition" && isRead(r.condition) ? [...factsIn(r.condition)] : [];
    }),
  );
  return {
    fields: ASKED_FIELDS.filter((field) => facts.has(field)),
    approvals: kinds.has("approvals") || facts.has("approvals"),
    blockers: kinds.has("no blocker") || facts.has("blocked"),
    openChildren: kinds.has("sub-tasks finished") || facts.has("openChildren"),
    changes: kinds.has("change merged"),
  };
}
