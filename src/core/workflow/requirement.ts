import type { Condition } from "@/core/condition/condition";
import type { EditableField } from "@/core/item/fields";
import type { Outcome } from "./state";

/**
 * A field of every item that a transition can demand to be filled, and that can be asked for in
 * place.
 */
export const DEMANDED_FIELDS = [
  "description",
  "howToTest",
  "assigneeId",
  "reviewerId",
  "teamId",
  "estimate",
  "severity",
  "place",
  "dueOn",
  "sprintId",
  "releaseId",
] as const satisfies readonly EditableField[];
export type DemandedItemField = (typeof DEMANDED_FIELDS)[number];
/** The same for a field of the project's own, by its id. */
export type DemandedOwnField = `own.${string}`;
export type DemandedField = DemandedItemField | DemandedOwnField;

/** The id of the own field that is demanded; null for a field of every item. */
export function demandedOwnField(field: DemandedField): string | null {
  return field.startsWith("own.") ? field.slice(4) : null;
}

/** Who may make a transition. */
export type Mover =
  | { kind: "role"; role: "lead" | "member" }
  | { kind: "team"; teamId: string }
  | { kind: "assignee" }
  | { kind: "not the assignee" }
  | { kind: "reviewer" }
  /** Who asked for it: its creator, or the person behind its report on their private page. */
  | { kind: "requester" };

/**
 * What is done about the limits of where the item goes, beside what the board's own firm limits
 * refuse.
 */
export const LIMIT_MODES = ["ignore", "warn", "ask", "refuse"] as const;
export type LimitMode = (typeof LIMIT_MODES)[number];

/** What a transition demands before it is allowed. */
export type Requirement =
  | { kind: "filled"; field: DemandedField }
  | { kind: "different people"; first: "reviewerId"; second: "assigneeId" }
  | { kind: "condition"; condition: Condition }
  | { kind: "checklist" }
  | { kind: "approvals"; count: number; role: "lead" | "member" | null; teamId: string | null }
  | { kind: "sub-tasks finished" }
  | { kind: "no blocker" }
  /** Its changes are merged, none is open any more; with `checks`, and their checks passed. */
  | { kind: "change merged"; checks: boolean }
  | { kind: "comment" }
  | { kind: "reason" }
  | { kind: "outcome"; allowed: Outcome[] }
  | { kind: "limit ahead"; mode: LimitMode };

export type RequirementKind = Requirement["kind"];
export const REQUIREMENT_KINDS: readonly RequirementKind[] = [
  "filled",
  "different people",
  "condition",
  "checklist",
  "approvals",
  "sub-tasks finished",
  "no blocker",
  "change merged",
  "comment",
  "reason",
  "outcome",
  "limit ahead",
];
