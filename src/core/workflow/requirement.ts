import type { Condition } from "@/core/condition/condition";
import type { EditableField } from "@/core/item/fields";
import type { Outcome } from "./workflow";

/** A field that a transition can demand to be filled, and that can be asked for in place. */
export const DEMANDED_FIELDS = ["description", "howToTest", "assigneeId", "reviewerId", "teamId", "estimate", "severity", "place", "dueOn"] as const satisfies readonly EditableField[];
export type DemandedField = (typeof DEMANDED_FIELDS)[number];

/** Who may make a transition. */
export type Mover =
  | { kind: "role"; role: "lead" | "member" }
  | { kind: "team"; teamId: string }
  | { kind: "assignee" }
  | { kind: "not the assignee" }
  | { kind: "reviewer" };

/** What is done about the limits of where the item goes, beside what the board's own firm limits refuse. */
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
  | { kind: "comment" }
  | { kind: "reason" }
  | { kind: "outcome"; allowed: Outcome[] }
  | { kind: "limit ahead"; mode: LimitMode };

export type RequirementKind = Requirement["kind"];
export const REQUIREMENT_KINDS: readonly RequirementKind[] = ["filled", "different people", "condition", "checklist", "approvals", "sub-tasks finished", "no blocker", "comment", "reason", "outcome", "limit ahead"];
