import { HOUR, type Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart } from "@/core/calendar/zone";

/** Hours a crew member works on a weekday. */
export const WORK_HOURS = 8;
const DAY_BEGINS = 9;

/** Monday to Friday; day 0 was a Thursday. */
const isWorkday = (day: number) => (((day + 3) % 7) + 7) % 7 < 5;

/**
 * Maps hours of work to instants, so that the simulation ends now: `instantOf(end)` is the last
 * working moment before now, and everything earlier lies on weekdays between nine and five before
 * it.
 */
export function workClock(now: Instant, zone: string, end: number): (hours: number) => Instant {
  let today = dayNumber(now, zone);
  let doneToday = Math.min(
    WORK_HOURS,
    Math.max(0, (now - dayStart(today, zone)) / HOUR - DAY_BEGINS),
  );
  while (!isWorkday(today) || doneToday === 0) {
    today -= 1;
    doneToday = WORK_HOURS;
  }
  // Workdays before today, newest first; grown as far back as is asked for.
  const workdays = [today];
  const workdayBefore = (n: number) => {
    while (workdays.length <= n) {
      let day = workdays.at(-1)! - 1;
      while (!isWorkday(day)) day -= 1;
      workdays.push(day);
    }
    return workdays[n];
  };
  return (hours) => {
    const back = end - hours - doneToday;
    if (back <= 0)
      return Math.round(dayStart(today, zone) + (DAY_BEGINS + doneToday - (end - hours)) * HOUR);
    const days = Math.floor(back / WORK_HOURS);
    const into = WORK_HOURS - (back - days * WORK_HOURS);
    return Math.round(dayStart(workdayBefore(days + 1), zone) + (DAY_BEGINS + into) * HOUR);
  };
}

/** For how many working hours a number of weeks lasts. */
export const hoursOfWeeks = (weeks: number) => weeks * 5 * WORK_HOURS;
