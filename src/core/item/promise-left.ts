import { HOUR } from "@/core/calendar/instant";

/** How much time is left of what was promised about an item. */
export interface PromiseLeft {
  /** Milliseconds of the promise's own time; negative where it is over. */
  ms: number;
  /** Whether that is working time. */
  working: boolean;
  /** What is still owed. */
  owed: "answer" | "resolve";
  /** Whether it stands still, while the requester is asked. */
  paused: boolean;
}

interface Owed {
  left: number;
  working: boolean;
  standing: string;
}

/**
 * What presses most of what is still owed; null where nothing is.
 * @param owed null for what was done, or was never promised
 */
export function promiseLeft(owed: {
  answer: Owed | null;
  resolve: Owed | null;
}): PromiseLeft | null {
  const open = (["answer", "resolve"] as const).flatMap((kind): PromiseLeft[] => {
    const state = owed[kind];
    if (state === null) return [];
    const { left, working, standing } = state;
    return [{ ms: left, working, owed: kind, paused: standing === "paused" }];
  });
  return open.toSorted((a, b) => a.ms - b.ms)[0] ?? null;
}

/** Less than this is said in minutes, less than `LONG` in hours. */
const SHORT = 2 * HOUR;
const LONG = 72 * HOUR;

function timeWords(ms: number, working: boolean): string {
  if (ms < SHORT) return `${Math.round(ms / 60_000)} min`;
  // A working day has no fixed length, so working time stays in hours.
  if (ms < LONG || working) return `${Math.round(ms / HOUR)} h`;
  return `${Math.round(ms / (24 * HOUR))} days`;
}

/** "answer due in 4 h", "promise ends in 33 working h", "promise over by 2 h". */
export function promiseLeftWords({ ms, working, owed, paused }: PromiseLeft): string {
  const what = owed === "answer" ? "answer" : "promise";
  if (paused) return `${what} waits for the requester`;
  const time = timeWords(Math.abs(ms), working);
  const told = working && !time.endsWith("min") ? time.replace(" h", " working h") : time;
  if (ms < 0) return `${what} over by ${told}`;
  return owed === "answer" ? `answer due in ${told}` : `promise ends in ${told}`;
}
