import type { DayNumber } from "@/core/calendar/instant";
import type { WaitsFor } from "@/core/plan/dependencies";

/*
 * Dependencies on a timeline: what waits for another begins when that has ended.
 */

/** An item where it stands. */
export interface Standing {
  id: string;
  from: DayNumber;
  to: DayNumber;
  /** Whether it can be put elsewhere: what was begun stays where it is. */
  moves: boolean;
  /** Whether only its sprint says when it is: somewhere within those days. */
  loose: boolean;
}

/** Whether one that waits for another stands behind it; of a whole sprint, that it ends no sooner. */
const isBehind = (own: Standing, other: Standing): boolean =>
  own.loose || other.loose ? own.to >= other.to : own.from > other.to;

/**
 * Which dependencies do not hold: the one that waits begins before the other one has ended; where
 * only a sprint says the days of one of them, it ends before the other.
 */
export function broken(
  standing: ReadonlyMap<string, Standing>,
  waits: readonly WaitsFor[],
): WaitsFor[] {
  return waits.filter(({ id, forId }) => {
    const [own, other] = [standing.get(id), standing.get(forId)];
    return own !== undefined && other !== undefined && own.moves && !isBehind(own, other);
  });
}

/**
 * What moves so that an item begins when all that it waits for has ended, with all that waits for it
 * in turn and would begin too early: each as far as it has to, and none twice round a circle.
 * @returns those that move, in the order in which they stand then
 */
export function putAfter(
  standing: ReadonlyMap<string, Standing>,
  waits: readonly WaitsFor[],
  id: string,
): Standing[] {
  const moved = new Map<string, Standing>();
  const now = (of: string) => moved.get(of) ?? standing.get(of);
  const queue = [id];
  // Each can be moved on once for each that it waits for; beyond that they wait for each other.
  let turns = (waits.length + 1) * (standing.size + 1);
  while (queue.length > 0 && turns-- > 0) {
    const next = queue.shift()!;
    const own = now(next);
    if (!own?.moves) continue;
    const ends = waits
      .filter((one) => one.id === next && one.forId !== next)
      .flatMap(({ forId }) => now(forId) ?? [])
      .filter((other) => !isBehind(own, other))
      .map(({ to }) => to);
    const earliest = Math.max(...ends, -Infinity) + 1;
    if (ends.length === 0) continue;
    if (earliest - standing.get(next)!.from > FARTHEST) break;
    const days = earliest - own.from;
    moved.set(next, { ...own, from: own.from + days, to: own.to + days, loose: false });
    queue.push(...waits.filter((one) => one.forId === next).map((one) => one.id));
  }
  return [...moved.values()].toSorted((a, b) => a.from - b.from || a.to - b.to);
}

/** Nothing is put more than so many days on: then it waits for itself. */
const FARTHEST = 3_660;
