import type { Outcome } from "./workflow";

/** Something a person can answer in place so that a refused command becomes possible. */
export type Ask =
  | { field: "howToTest"; label: string }
  | { field: "assigneeId"; label: string }
  | { field: "reviewerId"; label: string; not: string | null }
  | { field: "estimate"; label: string }
  | { field: "reason"; label: string }
  | { field: "outcome"; label: string; allowed: Outcome[] }
  | { field: "overrideReason"; label: string };

export const REFUSAL_CODES = [
  "no such move",
  "moved meanwhile",
  "field missing",
  "same person",
  "reason missing",
  "outcome missing",
  "limit",
  "conflict",
  "not allowed",
  "not found",
  "invalid",
  "withdrawn",
  "blocker unknown",
  "in use",
] as const;
export type RefusalCode = (typeof REFUSAL_CODES)[number];

/** Why a command is not carried out: one sentence that names the rule, one that says what would satisfy it. */
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

export function refuse(
  code: RefusalCode,
  sentence: string,
  help: string,
  asks: Ask[] = [],
  conflict?: Refusal["conflict"],
): Refusal {
  return { refused: true, code, sentence, help, asks, ...(conflict ? { conflict } : {}) };
}

export function isRefusal(value: unknown): value is Refusal {
  return typeof value === "object" && value !== null && (value as { refused?: unknown }).refused === true;
}
