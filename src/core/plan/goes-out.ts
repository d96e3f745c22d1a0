import { shortDate } from "@/core/calendar/day-words";
import type { Day } from "@/core/calendar/month";

/** With which release something goes out, or went. */
export interface GoesOut {
  name: string;
  /** Null while it has no day. */
  on: Day | null;
  out: boolean;
}

/**
 * With which release something goes out, in words.
 * @example "goes out with Crossing 21, 19 Dec"
 */
export function goesOutWords({ name, on, out }: GoesOut, today: Day): string {
  if (out) return `went out with ${name}`;
  if (on === null) return `goes out with ${name}, no day yet`;
  return `${on < today ? "was to go out" : "goes out"} with ${name}, ${shortDate(on)}`;
}
