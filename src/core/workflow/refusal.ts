import type { OwnField } from "@/core/item/own-field";
import type { DemandedOwnField } from "./requirement";
import type { Outcome, Policy } from "./state";
import type { DemandedItemField } from "../item/fields";

/** Something a person can answer in place so that a refused command becomes possible. */
export type Ask =
  | { field: DemandedOwnField; label: string; own: OwnField }
  | {
      field: DemandedItemField;
      label: string;
      /** For a reviewer: who it must not be. */ not?: string | null;
    }
  | { field: "reason"; label: string }
  | { field: "comment"; label: string }
  | { field: "outcome"; label: string; allowed: Outcome[] }
  | { field: "ticks"; label: string; policies: Policy[] }
  | { field: "overrideReason"; label: string };

export const REFUSAL_CODES = [
  "no such move",
  "not for you",
  "moved meanwhile",
  "field missing",
  "same person",
  "condition",
  "checklist",
  "approvals",
  "sub-tasks open",
  "blocked",
  "change open",
  "frozen",
  "test missing",
  "acceptance missing",
  "comment missing",
  "reason missing",
  "outcome missing",
  "limit",
  "conflict",
  "not allowed",
  "not found",
  "invalid",
  "withdrawn",
  "put away",
  "blocker unknown",
  "in use",
  "talk closed",
] as const;
export type RefusalCode = (typeof REFUSAL_CODES)[number];

/**
 * Why a command is not carried out: one sentence that names the rule, one that says what would
 * satisfy it.
 */
export interface Refusal {
  refused: true;
  code: RefusalCode;
  sentence: string;
  help: string;
  /** What may be answered in place; empty where no answer would help. */
  asks: Ask[];
  /** For a conflict: the field, and what stands there now. */
  conflict?: { field: string; current: unknown }[];
  /** For a conflict: the version that the current values are from. */
  version?: number;
}

/** That something is not done: why, in a sentence, what would help, and what is asked for. */
export function refuse(
  code: RefusalCode,
  sentence: string,
  help: string,
  asks: Ask[] = [],
): Refusal {
  return { refused: true, code, sentence, help, asks };
}

/** Whether a decision is a refusal and not its events. */
export function isRefusal(value: unknown): value is Refusal {
  return (
    typeof value === "object" && value !== null && (value as { refused?: unknown }).refused === true
  );
}
