import { shortDate } from "@/core/calendar/day-words";
import type { Day } from "@/core/calendar/month";

/** By which days an item is probably finished: in 85 of 100 cases, and in every other one. */
export interface Probably {
  sure: Day | null;
  even: Day | null;
}

/**
 * When an item is probably finished, in words; the surer day where both can be said.
 * @returns null where neither can; `late` where 85 % is not before the day that it is due
 */
export function probablyWords(
  { sure, even }: Probably,
  dueOn: Day | null,
): { words: string; late: boolean } | null {
  const by = sure ?? even;
  if (by === null) return null;
  const words = `${sure === null ? "50" : "85"} % by ${shortDate(by)}`;
  const late = dueOn !== null && (sure === null || sure > dueOn);
  return late ? { words: `${words}, due ${shortDate(dueOn)}`, late } : { words, late };
}

/** "62 %": a chance is never said to be none, nor certain. @param chance from 0 to 1 */
export function chanceWords(chance: number): string {
  const percent = Math.round(chance * 100);
  if (percent < 1) return "less than 1 %";
  return percent > 99 ? "more than 99 %" : `${percent} %`;
}
