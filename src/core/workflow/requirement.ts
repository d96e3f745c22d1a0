import type { DemandedItemField } from "@/core/item/fields";

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
