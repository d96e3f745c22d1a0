import type { Day } from "@/core/calendar/month";
import { refuse, type Refusal } from "@/core/workflow/refusal";
import { amountWords } from "./amount";

/** Time that somebody spent on an item, as they recorded it. */
export interface TimeEntry {
  entryId: string;
  personId: string;
  /** On that day, or up to it where it is more than one day can hold. */
  on: Day;
  minutes: number;
  /** Empty where nothing was said. */
  note: string;
}

/** So much is recorded at once at most: beyond that it is a slip of the hand. */
export const MOST_MINUTES = 100 * 60;

/**
 * Why time cannot be recorded so; null where it can.
 * @param today in the zone of the item's project
 */
export function entryProblem({ minutes, on }: TimeEntry, today: Day): Refusal | null {
  if (minutes < 1 || minutes > MOST_MINUTES)
    return refuse(
      "invalid",
      `Between a minute and ${amountWords(MOST_MINUTES)} can be recorded at once.`,
      "Record it day by day.",
    );
  if (on > today)
    return refuse("invalid", "That day is still to come.", "Record time once it is spent.");
  return null;
}

/**
 * What is left of an item once some time is recorded, changed or removed: so much less, or more
 * again, and never less than nothing.
 * @param left in hours; null where nobody has said how much is left
 */
export function leftAfter(
  left: number | null,
  was: Pick<TimeEntry, "minutes"> | null,
  becomes: Pick<TimeEntry, "minutes"> | null,
): number | null {
  if (left === null) return null;
  const spent = (becomes?.minutes ?? 0) - (was?.minutes ?? 0);
  return Math.max(0, Math.round((left - spent / 60) * 100) / 100);
}
