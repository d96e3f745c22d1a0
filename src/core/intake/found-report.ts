import { z } from "zod";
import type { GoesOut } from "@/core/plan/goes-out";
import { REPORT_WAYS, type ReportStatus, type ReportWay } from "./report";
import { VERDICT_KINDS } from "./triage-figures";
import type { VerdictKind } from "./verdict";

/** Reports that are found at once. */
export const FOUND_PAGE = 40;

/** The statuses that a report has once it is judged for good. */
export const JUDGED = ["accepted", "merged", "declined"] as const satisfies ReportStatus[];

/**
 * What is looked for among all reports of a project, whatever became of them: by reference, words or
 * mail address; without any of these, those that were judged.
 */
export const foundQuery = z.object({
  words: z.string().trim().max(200).default(""),
  way: z.enum(REPORT_WAYS).optional(),
  team: z.string().max(64).optional(),
  /** The verdict that stands on it, whether it is judged for good or not. */
  verdict: z.enum(VERDICT_KINDS).optional(),
  /** When that was given, half-open. */
  since: z.coerce.number<number>().int().min(0).max(Number.MAX_SAFE_INTEGER).optional(),
  until: z.coerce.number<number>().int().min(0).max(Number.MAX_SAFE_INTEGER).optional(),
  /** The last one that is known, and when something happened to it: what follows it is wanted. */
  after: z.uuid().optional(),
  before: z.coerce.number<number>().int().min(0).max(Number.MAX_SAFE_INTEGER).optional(),
});
export type FoundQuery = z.output<typeof foundQuery>;

/** A report that was found, with what became of it. */
export interface FoundReport {
  id: string;
  reference: string;
  title: string;
  receivedAt: number;
  status: ReportStatus;
  way: ReportWay;
  teamId: string | null;
  version: number;
  /** The verdict that stands; nobody where a rule gave it. */
  verdict: { id: string; kind: VerdictKind; by: string | null; at: number } | null;
  /** The item it came to; null where there is none in the reader's view. */
  itemKey: string | null;
  /** With which release that goes out. */
  goesOut: GoesOut | null;
}

export interface FoundReports {
  /** What happened last to them first. */
  rows: FoundReport[];
  /** How many follow. */
  rest: number;
}

/** When something happened last to a report: the order in which they are found. */
export const lastOf = ({ verdict, receivedAt }: FoundReport): number => verdict?.at ?? receivedAt;

/** A verdict of the reader that stands and can be undone. */
export interface GivenLately {
  reportId: string;
  verdictId: string;
}

const WAITS: Record<ReportStatus, string> = {
  unjudged: "waits again",
  asked: "waits for an answer again",
  parked: "is parked again",
  accepted: "is accepted again",
  merged: "is merged again",
  declined: "is declined again",
};

/**
 * What undoing verdicts did, in a sentence.
 * @param stand the reports with where each stands now; at least one
 */
export function undoneWords(stand: readonly { reference: string; status: ReportStatus }[]): string {
  if (stand.length === 1) return `${stand[0].reference} ${WAITS[stand[0].status]}.`;
  return `Undone: ${stand.map((s) => s.reference).join(", ")} stand where they stood before.`;
}
