import type { Days } from "@/core/calendar/instant";

/** How long something took, or how old it is by now where it has not ended. */
export interface Lifetime {
  days: Days;
  ended: boolean;
}

/** A day on which something ended, and the share that lasts longer than it. */
export interface SurvivalStep {
  days: Days;
  /** How many had lasted until then, and were still looked at. */
  atRisk: number;
  ended: number;
  /** From 0 to 1. */
  survival: number;
}

/**
 * The share that lasts longer than each day on which something ended: the product-limit estimate of
 * E. L. Kaplan and P. Meier, "Nonparametric estimation from incomplete observations", Journal of the
 * American Statistical Association 53 (1958), 457-481. What has not ended counts among those at risk
 * until its age; on a day on which others ended it counts as lasting longer.
 */
export function survivalCurve(lifetimes: readonly Lifetime[]): SurvivalStep[] {
  const inOrder = [...lifetimes].sort((a, b) => a.days - b.days);
  const curve: SurvivalStep[] = [];
  let survival = 1;
  for (let from = 0; from < inOrder.length;) {
    const { days } = inOrder[from];
    let to = from;
    let ended = 0;
    for (; to < inOrder.length && inOrder[to].days === days; to++) if (inOrder[to].ended) ended++;
    const atRisk = inOrder.length - from;
    if (ended > 0) {
      survival *= 1 - ended / atRisk;
      curve.push({ days, atRisk, ended, survival });
    }
    from = to;
  }
  return curve;
}

/** The share that lasts longer than so many days, from 0 to 1. */
export function survivalAt(curve: readonly SurvivalStep[], days: Days): number {
  let low = 0;
  let high = curve.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (curve[middle].days <= days) low = middle + 1;
    else high = middle;
  }
  return low === 0 ? 1 : curve[low - 1].survival;
}

/**
 * The chance that something ends within so many days more, as it has not ended until now.
 * @param age in days, today counted: it may still end today
 * @param more 0: by the end of today
 * @returns from 0 to 1; null where nothing that was seen lasted as long as it has
 */
export function chanceWithin(
  curve: readonly SurvivalStep[],
  age: Days,
  more: number,
): number | null {
  const lasted = survivalAt(curve, age - 1);
  if (lasted <= 0 || (curve.at(-1)?.days ?? 0) < age) return null;
  return 1 - survivalAt(curve, age + more) / lasted;
}

/**
 * In how many days all of some will have ended with a chance, each for itself.
 * @param ages in days, today counted
 * @param chance from 0 to 1
 * @param horizon no more days than this are looked at
 * @returns 0: today; null where that cannot be said, or lies behind the horizon
 */
export function daysUntilAllEnd(
  curve: readonly SurvivalStep[],
  ages: readonly Days[],
  { chance, horizon }: { chance: number; horizon: number },
): number | null {
  const allBy = (more: number): number | null => {
    let together = 1;
    for (const age of ages) {
      const one = chanceWithin(curve, age, more);
      if (one === null) return null;
      together *= one;
    }
    return together;
  };
  for (let more = 0; more <= horizon; more++) {
    const together = allBy(more);
    if (together === null) return null;
    if (together >= chance) return more;
  }
  return null;
}
