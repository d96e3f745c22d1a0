import type { Instant } from "@/core/calendar/instant";
import { counted } from "@/core/formats/counted";
import type { Ask } from "@/core/workflow/refusal";

/** So many items are changed in one transaction. */
export const CHUNK = 50;

export const JOB_STATES = ["waiting", "running", "done", "cancelled"] as const;
export type JobState = (typeof JOB_STATES)[number];

/** How it went with one item: done; as it was to be already; refused, with why. */
export const OUTCOMES_OF_ITEM = ["done", "same", "refused"] as const;
export type ItemOutcome = (typeof OUTCOMES_OF_ITEM)[number];

/** Items that are left out for one reason. */
export interface LeftOut {
  sentence: string;
  count: number;
  /** Of those that may be seen. */
  keys: string[];
}

/** What would happen if it were done now. */
export interface BulkForecast {
  total: number;
  /** So many were tried; the rest may turn out otherwise. */
  tried: number;
  goes: number;
  same: number;
  leftOut: LeftOut[];
  /** What could be answered so that more of them go. */
  asks: Ask[];
}

/** A job as it stands. */
export interface BulkJob {
  id: string;
  words: string;
  state: JobState;
  total: number;
  done: number;
  same: number;
  leftOut: LeftOut[];
  /** How many have been looked at so far. */
  looked: number;
  madeAt: Instant;
  /** Whether it takes another one back, or was taken back itself. */
  undoes: boolean;
  undone: boolean;
}

export interface BulkJobs {
  jobs: BulkJob[];
}

/** Whether a job still goes on. */
export const isGoingOn = ({ state }: Pick<BulkJob, "state">): boolean =>
  state === "waiting" || state === "running";

/** The same sentence once, with all whom it is about, the most first. */
export function gatherLeftOut(
  refused: readonly { sentence: string; key: string | null }[],
): LeftOut[] {
  const bySentence = new Map<string, { count: number; keys: string[] }>();
  for (const { sentence, key } of refused) {
    const known = bySentence.get(sentence) ?? { count: 0, keys: [] };
    known.count += 1;
    if (key !== null) known.keys.push(key);
    bySentence.set(sentence, known);
  }
  return [...bySentence]
    .sort(([, a], [, b]) => b.count - a.count)
    .map(([sentence, told]) => ({ sentence, ...told }));
}

/** How many are left out. */
export const leftOutCount = (leftOut: readonly LeftOut[]): number =>
  leftOut.reduce((sum, { count }) => sum + count, 0);

/** What would happen, in a sentence: "12 go, 3 are refused: Review needs a reviewer." */
export function forecastWords({ total, tried, goes, same, leftOut }: BulkForecast): string {
  const refused = leftOutCount(leftOut);
  const parts = [
    `${goes} ${goes === 1 ? "goes" : "go"}`,
    same > 0 && `${same} ${same === 1 ? "is" : "are"} so already`,
    refused > 0 &&
      `${refused} ${refused === 1 ? "is" : "are"} refused: ${leftOut.map((l) => l.sentence).join(" ")}`,
  ];
  const words = parts.filter(Boolean).join(", ");
  return tried < total ? `Of the first ${tried} of ${counted(total, "item")}: ${words}` : words;
}
