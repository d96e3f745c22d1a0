import { DAY, type Instant } from "@/core/calendar/instant";
import type { State } from "@/core/workflow/state";

/** That an item has been in its state for longer than the state expects. */
export interface LongStay {
  words: string;
  /** Longer than the state bears at all. */
  tooOld: boolean;
}

/** How long an item has been in its state, where that is more than its process expects; else null. */
export function longStay(
  { expectedDays, tooOldDays }: Pick<State, "expectedDays" | "tooOldDays">,
  enteredAt: Instant,
  now: Instant,
): LongStay | null {
  const days = (now - enteredAt) / DAY;
  const here = `${Math.floor(days)} d here`;
  if (tooOldDays !== null && days > tooOldDays)
    return { words: `${here}, too old after ${tooOldDays}`, tooOld: true };
  if (expectedDays !== null && days > expectedDays)
    return { words: `${here}, expected ${expectedDays}`, tooOld: false };
  return null;
}
