import type { DayNumber, Instant } from "@/core/calendar/instant";
import type { Day } from "@/core/calendar/month";
import { parseIsoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import { leftAt, scopeAt, type ItemOverTime, type SizeUnit } from "./sprint-ledger";

/** That the day of a release was set, moved or taken away. */
export interface DateChange {
  from: Day | null;
  to: Day | null;
  why: string;
  at: Instant;
  /** The name of who did it. */
  by: string;
}

const TIMES = ["", "once", "twice"];

/**
 * How often the day of a release moved and how far in all; null where it never did. Setting the first
 * day is no move.
 * @param changes the first one first
 * @example “moved twice, by 9 days”
 */
export function movedWords(changes: readonly Pick<DateChange, "from" | "to">[]): string | null {
  const moves = changes.filter(({ from, to }) => from !== null && to !== null && from !== to);
  if (moves.length === 0) return null;
  const days = parseIsoDate(moves.at(-1)!.to!) - parseIsoDate(moves[0].from!);
  const often = `moved ${TIMES[moves.length] ?? `${moves.length} times`}`;
  if (days === 0) return `${often}, and back`;
  return days > 0
    ? `${often}, by ${counted(days, "day")}`
    : `${often}, ${counted(-days, "day")} earlier`;
}

/** At the end of a day: all that was in a release, and how much of it was finished. */
export interface BurnUpDay {
  day: DayNumber;
  scope: Record<SizeUnit, number>;
  done: Record<SizeUnit, number>;
}

/** How a release got ready, with its scope drawn apart. @param ends when each day ends */
export const burnUp = (
  items: readonly ItemOverTime[],
  ends: readonly { day: DayNumber; at: Instant }[],
): BurnUpDay[] =>
  ends.map(({ day, at }) => {
    const [scope, left] = [scopeAt(items, at), leftAt(items, at)];
    return {
      day,
      scope,
      done: { points: scope.points - left.points, items: scope.items - left.items },
    };
  });
