import { DAY, type Days } from "@/core/calendar/instant";
import type { Period } from "./period";
import type { Finished } from "./measures";

export interface LittlesLaw {
  /**
   * L: the area under the in-progress part of the cumulative flow diagram ÷ the length of the
   * period.
   */
  averageWip: number;
  /** λ: departures per day, whatever their outcome. */
  throughput: number;
  /**
   * W: mean elapsed time in progress of the departures, in days, each since the item's departure
   * before; null when there is none.
   */
  averageTime: Days | null;
  /**
   * L − λW, in items: 0 when the period begins and ends empty; otherwise what is carried in and
   * out.
   */
  gap: number | null;
}

/**
 * Little's law, L = λW, as a check of the averages (J. D. C. Little, "A proof for the queuing
 * formula: L = λW", Operations Research 9 (1961), 383-387). Over a window that starts and ends
 * empty it is an identity, because both sides are the same area under the cumulative flow diagram.
 * @param inProgressMs that area, exactly, in milliseconds
 */
export function littlesLaw(
  period: Period,
  inProgressMs: number,
  departures: readonly Pick<Finished, "sinceLast">[],
): LittlesLaw {
  const length = (period.to - period.from) / DAY;
  const averageWip = inProgressMs / DAY / length;
  const throughput = departures.length / length;
  if (departures.length === 0) return { averageWip, throughput, averageTime: null, gap: null };
  const averageTime = departures.reduce((sum, d) => sum + d.sinceLast, 0) / departures.length;
  return { averageWip, throughput, averageTime, gap: averageWip - throughput * averageTime };
}
