import { dayWords } from "@/core/calendar/day-words";
import type { Days } from "@/core/calendar/instant";
import { addDays, type Day } from "@/core/calendar/month";
import { counted } from "@/core/formats/counted";

/** What is known of a date that was promised. */
export interface PromisedDate {
  dueOn: Day;
  today: Day;
  /** Days that the item has been in progress; 0 before it is begun. */
  age: Days;
  /** So many days 85 % of finished items took; null where too few have finished. */
  p85: Days | null;
}

/**
 * Whether a promised date is at risk: an item as old as this, which goes on until 85 % have
 * finished, would be done after it. Of a date that is past there is no risk any more.
 */
export function isAtRisk({ dueOn, today, age, p85 }: PromisedDate): boolean {
  if (p85 === null || dueOn < today) return false;
  return addDays(today, Math.ceil(Math.max(0, p85 - age))) > dueOn;
}

/** Why it is at risk, as its people read it. */
export function atRiskWords({ dueOn, today, age, p85 }: PromisedDate): string {
  const begun = age === 0 ? "It is not begun" : `It is ${counted(age, "day")} old`;
  return `Its date is at risk: due ${dayWords(dueOn, today)}. ${begun}, and 85 % are done after ${counted(Math.ceil(p85 ?? 0), "day")}.`;
}
