import { dayNumber, dayStart, isoDate, parseIsoDate } from "@/core/calendar/zone";
import type { DayNumber, Instant } from "@/core/calendar/instant";
import type { SprintBounds } from "@/core/plan/sprint";
import { workedUntil, type WorkedDay } from "@/core/plan/sprint-hours";
import {
  idealLine,
  leftAt,
  SPRINT_TERMS,
  SPRINT_UNITS,
  sprintDays,
  type SprintChange,
  type ItemOverTime,
  type SprintUnit,
} from "@/core/plan/sprint-ledger";
import type { Counted, SprintDayView, TermTotals } from "@/core/plan/sprint-view";
import type { sprint } from "@/db/schema";

/** What was ever in a sprint, by its size, and with the tasks below it by the hours left on it. */
interface InSprint {
  items: readonly ItemOverTime[];
  inHours: readonly ItemOverTime[];
}

const rounded = (hours: number): number => Math.round(hours * 100) / 100;

/** What is left in a sprint at an instant, in each unit. */
export const leftIn = ({ items, inHours }: InSprint, at: Instant): Record<SprintUnit, number> => ({
  ...leftAt(items, at),
  hours: rounded(leftAt(inHours, at).points),
});

/** Items as far as they are seen, and how many more. */
export const counted = (ids: readonly string[], seen: ReadonlySet<string>): Counted => {
  const shown = ids.filter((id) => seen.has(id));
  return { ids: shown, unseen: ids.length - shown.length };
};

interface DaysAsked extends InSprint {
  row: Pick<typeof sprint.$inferSelect, "startsOn" | "endsOn" | "startedAt" | "zone">;
  /** The hours recorded on what is in it. */
  worked: readonly WorkedDay[];
  /** Null before its start. */
  bounds: SprintBounds | null;
  seen: ReadonlySet<string>;
  worksOn: (day: number) => boolean;
  now: Instant;
}

/** The days of a sprint, with what was left at the end of each that has come, and by what. */
export function daysOf(asked: DaysAsked): SprintDayView[] {
  const { row, items, inHours, worked, bounds, seen, worksOn } = asked;
  // One that was started early has the days before its first one too.
  const first = Math.min(
    parseIsoDate(row.startsOn),
    row.startedAt === null ? Infinity : dayNumber(row.startedAt, row.zone),
  );
  const numbers = Array.from({ length: parseIsoDate(row.endsOn) - first + 1 }, (_, i) => first + i);
  const works = numbers.map(worksOn);
  const begun = bounds ? leftIn(asked, bounds.start) : { points: 0, items: 0, hours: 0 };
  const even = SPRINT_UNITS.map((unit) => [unit, idealLine(begun[unit], works)] as const);
  const ends = bounds ? endsOf(numbers, bounds, asked) : [];
  const dayBy = (of: readonly ItemOverTime[]) =>
    new Map(
      bounds ? sprintDays(of, { start: bounds.start, ends }).map((day) => [day.day, day]) : [],
    );
  const [sized, inHoursBy] = [dayBy(items), dayBy(inHours)];
  return numbers.map((day, i) => {
    const [size, hours] = [sized.get(day), inHoursBy.get(day)];
    const left = hours && rounded(hours.left.points);
    return {
      day: isoDate(day),
      works: works[i],
      left: size && left !== undefined ? { ...size.left, hours: left } : null,
      scope:
        size && left !== undefined
          ? { ...size.scope, hours: rounded(left + workedUntil(worked, { from: first, to: day })) }
          : null,
      even: Object.fromEntries(
        even.map(([unit, line]) => [unit, line[i]]),
      ) as SprintDayView["even"],
      terms: termsOf(size?.changes ?? [], seen, ({ points, items: one }) => ({
        points,
        items: one,
      })),
      hourTerms: termsOf(hours?.changes ?? [], seen, ({ points }) => ({ hours: rounded(points) })),
    };
  });
}

/** When each day that has begun ends, from the start of the sprint on. */
const endsOf = (
  numbers: readonly DayNumber[],
  { start, end }: SprintBounds,
  { row: { zone }, now }: Pick<DaysAsked, "row" | "now">,
) =>
  numbers
    .filter((day) => dayStart(day, zone) <= end)
    .map((day) => ({ day, at: Math.min(end, dayStart(day + 1, zone) - 1) }))
    .filter(({ at }) => at >= start && at <= now);

/** What changed, term by term; in the units that it is told in. */
function termsOf(
  changes: readonly SprintChange[],
  seen: ReadonlySet<string>,
  told: (change: SprintChange["change"]) => Partial<Record<SprintUnit, number>>,
): TermTotals {
  const terms: TermTotals = {};
  for (const term of SPRINT_TERMS) {
    const own = changes.filter((change) => change.term === term);
    if (own.length === 0) continue;
    const sum = (unit: "points" | "items") => own.reduce((so, { change }) => so + change[unit], 0);
    terms[term] = {
      ...counted([...new Set(own.map(({ itemId }) => itemId))], seen),
      change: told({ points: sum("points"), items: sum("items") }),
    };
  }
  return terms;
}
