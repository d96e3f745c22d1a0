import type { DayNumber, Instant, Interval } from "@/core/calendar/instant";

/**
 * What an item was over time, as far as a sprint, a release or a large piece asks: how large, whether
 * in it, whether finished.
 */
export interface ItemOverTime {
  id: string;
  /** When it was in it. */
  inside: readonly Interval[];
  /** When it was finished: from each finish until it was reopened. */
  finished: readonly Interval[];
  /** Its sizes in points, each from when on, the first one first; null: nobody had sized it. */
  sizes: readonly { from: Instant; size: number | null }[];
  /** Its first finish that delivered it. */
  deliveredAt: Instant | null;
}

/** Ways in which what is left in a sprint changes, and what they do to it. */
export const SPRINT_TERMS = ["added", "taken out", "re-estimated", "reopened", "finished"] as const;
export type SprintTerm = (typeof SPRINT_TERMS)[number];

/** In what the size of what is planned is counted. */
export const SIZE_UNITS = ["points", "items"] as const;
export type SizeUnit = (typeof SIZE_UNITS)[number];

/** In what a sprint is counted: besides, in the hours of work that are left. */
export const SPRINT_UNITS = [...SIZE_UNITS, "hours"] as const;
export type SprintUnit = (typeof SPRINT_UNITS)[number];

/** One change of what is left. */
export interface SprintChange {
  at: Instant;
  itemId: string;
  term: SprintTerm;
  /** By how much what is left changes: below nothing where it gets less. */
  change: Record<SizeUnit, number>;
}

type Amounts = Record<SizeUnit, number>;

const covers = (intervals: readonly Interval[], at: Instant): boolean =>
  intervals.some(({ from, to }) => from <= at && (to === null || at < to));

/** How large an item was at an instant; null where nobody had sized it by then. */
export function sizeAt({ sizes }: Pick<ItemOverTime, "sizes">, at: Instant): number | null {
  return sizes.findLast(({ from }) => from <= at)?.size ?? null;
}

/** What an item adds to what is left in a sprint at an instant. */
function leftOf(item: ItemOverTime, at: Instant): Amounts {
  const open = covers(item.inside, at) && !covers(item.finished, at);
  return open ? { points: sizeAt(item, at) ?? 0, items: 1 } : { points: 0, items: 0 };
}

/** What is left in a sprint at an instant. */
export function leftAt(items: readonly ItemOverTime[], at: Instant): Amounts {
  const left = { points: 0, items: 0 };
  for (const item of items) {
    const { points, items: one } = leftOf(item, at);
    left.points += points;
    left.items += one;
  }
  return left;
}

/**
 * Every change of what is left in a sprint behind its start and up to its end, in the order of time:
 * what is left at any instant is what was left at the start, with all of them until then.
 */
export function sprintChanges(
  items: readonly ItemOverTime[],
  { start, end }: { start: Instant; end: Instant },
): SprintChange[] {
  const changes: SprintChange[] = [];
  for (const item of items) {
    const instants = new Set(
      [...item.inside, ...item.finished]
        .flatMap(({ from, to }) => [from, to])
        .concat(item.sizes.map(({ from }) => from))
        .filter((at): at is Instant => at !== null && at > start && at <= end),
    );
    let before = start;
    for (const at of [...instants].sort((a, b) => a - b)) {
      changes.push(...changeOf(item, before, at));
      before = at;
    }
  }
  return changes.sort((a, b) => a.at - b.at || (a.itemId < b.itemId ? -1 : 1));
}

/** What changed of an item between two instants in a row. */
function changeOf(item: ItemOverTime, before: Instant, at: Instant): SprintChange[] {
  const [was, is] = [leftOf(item, before), leftOf(item, at)];
  const change = { points: is.points - was.points, items: is.items - was.items };
  if (change.points === 0 && change.items === 0) return [];
  const term = termOf(item, before, at, change.items);
  return [{ at, itemId: item.id, term, change }];
}

function termOf(item: ItemOverTime, before: Instant, at: Instant, items: number): SprintTerm {
  if (items === 0) return "re-estimated";
  if (items > 0) return covers(item.inside, before) ? "reopened" : "added";
  return covers(item.inside, at) ? "finished" : "taken out";
}

/** A day of a sprint: what was left at its end, and what changed that in its course. */
export interface SprintDay {
  day: DayNumber;
  left: Amounts;
  /** All that was in the sprint at its end, finished or not. */
  scope: Amounts;
  changes: SprintChange[];
}

/**
 * The days of a sprint, as far as they have come.
 * @param ends when each day ends, from the first on
 */
export function sprintDays(
  items: readonly ItemOverTime[],
  { start, ends }: { start: Instant; ends: readonly { day: DayNumber; at: Instant }[] },
): SprintDay[] {
  const last = ends.at(-1);
  if (!last) return [];
  const changes = sprintChanges(items, { start, end: last.at });
  let from = start;
  return ends.map(({ day, at }) => {
    const own = changes.filter((change) => change.at > from && change.at <= at);
    from = Math.max(from, at);
    return { day, left: leftAt(items, at), scope: scopeAt(items, at), changes: own };
  });
}

/** All that is in a sprint at an instant, finished or not. */
export function scopeAt(items: readonly ItemOverTime[], at: Instant): Amounts {
  const inside = items.filter((item) => covers(item.inside, at));
  return {
    points: inside.reduce((sum, item) => sum + (sizeAt(item, at) ?? 0), 0),
    items: inside.length,
  };
}

/** What was committed to, and what came of it; each term by its items. */
export interface SprintOutcome {
  /** In it at its start and not finished. */
  committed: string[];
  added: string[];
  takenOut: string[];
  /** First delivered in its course while in it. */
  delivered: string[];
  /** In it at its end and not finished. */
  carriedOver: string[];
  /** Delivered without a size: counted, not guessed. */
  unsized: string[];
  /** The size of what was delivered, each as large as it was then. */
  velocity: number;
  committedPoints: number;
  /** What is delivered without having been in at the start, with no points: interruptions. */
  interruptions: string[];
}

/**
 * What a sprint came to, from its start to its end. An item whose whole size counts is the one that is
 * first delivered in it; an interruption has no points, and none are made up for it.
 */
export function sprintOutcome(
  items: readonly ItemOverTime[],
  { start, end }: { start: Instant; end: Instant },
): SprintOutcome {
  const changes = sprintChanges(items, { start, end });
  const having = (term: SprintTerm) => [
    ...new Set(changes.filter((change) => change.term === term).map(({ itemId }) => itemId)),
  ];
  const open = (at: Instant) => items.filter((item) => leftOf(item, at).items > 0);
  const delivered = items.filter(
    (item) =>
      item.deliveredAt !== null &&
      item.deliveredAt > start &&
      item.deliveredAt <= end &&
      // The finish itself may be what ends a stay in it: just before, it was in.
      (covers(item.inside, item.deliveredAt) || covers(item.inside, item.deliveredAt - 1)),
  );
  const committed = open(start);
  const wasIn = new Set(committed.map(({ id }) => id));
  const sizeOf = (item: ItemOverTime) => sizeAt(item, item.deliveredAt!);
  return {
    committed: ids(committed),
    added: having("added"),
    takenOut: having("taken out"),
    delivered: ids(delivered),
    carriedOver: ids(open(end)),
    unsized: ids(delivered.filter((item) => sizeOf(item) === null)),
    velocity: delivered.reduce((sum, item) => sum + (sizeOf(item) ?? 0), 0),
    committedPoints: leftAt(items, start).points,
    interruptions: ids(delivered.filter((item) => !wasIn.has(item.id) && sizeOf(item) === 0)),
  };
}

const ids = (items: readonly ItemOverTime[]): string[] => items.map(({ id }) => id);

/** Of how many past sprints velocity is told. */
export const VELOCITY_OF = 6;
/** With fewer nothing is foretold. */
export const LEAST_SPRINTS = 3;

/** The mean and the range of the velocities of the last sprints that ended; null under three. */
export function velocityRange(
  velocities: readonly number[],
): { mean: number; least: number; most: number; of: number } | null {
  const last = velocities.slice(-VELOCITY_OF);
  if (last.length < LEAST_SPRINTS) return null;
  return {
    mean: last.reduce((sum, one) => sum + one, 0) / last.length,
    least: Math.min(...last),
    most: Math.max(...last),
    of: last.length,
  };
}

/**
 * What would be left at the end of each day if it fell evenly over the working days.
 * @param works of each day, whether it is a working day
 */
export function idealLine(start: number, works: readonly boolean[]): number[] {
  const total = works.filter(Boolean).length;
  let done = 0;
  return works.map((work) => {
    if (work) done += 1;
    return total === 0 ? start : start * (1 - done / total);
  });
}
