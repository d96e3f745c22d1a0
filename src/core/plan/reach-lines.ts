import { dayOfRow, rowsBy, SURENESS, type Reach, type Sureness } from "@/core/forecast/reach";
import type { Day } from "@/core/calendar/month";

/** A date that a backlog is measured against: the end of a sprint, or the day of a release. */
export interface ReachDate {
  id: string;
  /** As it is said: “the end of Sprint 22”. */
  words: string;
  day: Day;
  /** In days from today. */
  in: number;
}

/** A line across a backlog: what stands above it will probably be finished by a date. */
export interface ReachLine {
  date: ReachDate;
  how: Sureness;
  /** So many rows stand above it that this person sees; 0: none does. */
  after: number;
  /** And so many that they do not see. */
  hidden: number;
  /** Whether more would be finished than the rows that are known. */
  beyond: boolean;
}

/**
 * Where the lines stand among the rows that somebody sees.
 * @param counts whether each row that is seen counts: those of other levels stand there without
 * @param hiddenAfter of each row that is not seen, how many that are seen stand before it; ascending
 * @returns by where they stand, then the surer ones first; what lies beyond the rows stands at the end
 */
export function reachLines(
  reach: Reach,
  dates: readonly ReachDate[],
  { counts, hiddenAfter }: { counts: readonly boolean[]; hiddenAfter: readonly number[] },
): ReachLine[] {
  const lines = dates.flatMap((date) =>
    (Object.keys(SURENESS) as Sureness[]).map((how) => ({
      date,
      how,
      ...placeOf(rowsBy(reach, date.in, how), counts, hiddenAfter),
    })),
  );
  // The surer line of a date was made first, and stays before the other one.
  return lines.sort((a, b) => a.after - b.after || a.date.in - b.date.in);
}

/** Behind which row that is seen so many rows that count are over, and how many of them are hidden. */
function placeOf(
  rows: number,
  counts: readonly boolean[],
  hiddenAfter: readonly number[],
): Pick<ReachLine, "after" | "hidden" | "beyond"> {
  let left = rows;
  let hidden = 0;
  let after = 0;
  for (let seen = 0; left > 0; seen++) {
    while (left > 0 && hidden < hiddenAfter.length && hiddenAfter[hidden] <= seen) {
      hidden++;
      left--;
    }
    if (left === 0 || seen >= counts.length) break;
    if (!counts[seen]) continue;
    left--;
    after = seen + 1;
  }
  return { after, hidden, beyond: left > 0 };
}

/**
 * The place of each row that is seen among all that count, from 1; null where it does not count.
 * Hidden ones count before the row that they stand before.
 */
export function placesOf(
  counts: readonly boolean[],
  hiddenAfter: readonly number[],
): (number | null)[] {
  let place = 0;
  let hidden = 0;
  return counts.map((counted, seen) => {
    while (hidden < hiddenAfter.length && hiddenAfter[hidden] <= seen) {
      hidden++;
      place++;
    }
    return counted ? ++place : null;
  });
}

/** How a due date stands where an item is in the backlog. */
export type DueHere = "in time" | "at risk" | "too late";

/**
 * Whether an item will be finished by its day where it stands: by then it is in 85 of 100 trials, in
 * every other one, or in fewer.
 * @param place among all rows that count, from 1
 */
export function dueHere(reach: Reach, place: number, dueIn: number): DueHere {
  const by = (how: Sureness) => dayOfRow(reach, place, how) ?? Infinity;
  if (by("sure") <= dueIn) return "in time";
  return by("even") <= dueIn ? "at risk" : "too late";
}
