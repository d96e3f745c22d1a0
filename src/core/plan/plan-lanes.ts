import { PRIORITIES, type Priority } from "@/core/item/fields";

/** By what the columns of a plan are cut into lanes. */
export const LANES = ["none", "person", "team", "priority"] as const;
export type LaneBy = (typeof LANES)[number];

/** What of an item says in which lane it is. */
export interface Laned {
  assigneeId: string | null;
  teamId: string | null;
  priority: Priority;
}

/** Some items that have something in common. */
export interface PlanLane<T> {
  /** The id of the person or team, or the priority; null where there is none. */
  key: string | null;
  items: T[];
}

const keyOf = (item: Laned, by: Exclude<LaneBy, "none">): string | null =>
  ({ person: item.assigneeId, team: item.teamId, priority: item.priority })[by];

/**
 * Items cut into lanes, in the order in which the lanes are named; those with nobody or nothing come
 * last. Within a lane the order stays.
 * @param order the ids in the order in which their lanes stand
 */
export function planLanes<T extends Laned>(
  items: readonly T[],
  by: LaneBy,
  order: readonly string[],
): PlanLane<T>[] {
  if (by === "none") return [{ key: null, items: [...items] }];
  const keys = by === "priority" ? PRIORITIES.toReversed() : order;
  const lanes = new Map<string | null, T[]>([...keys, null].map((key) => [key, []]));
  for (const item of items) {
    const key = keyOf(item, by);
    // Whoever is not among those who work here has a lane with the ones that nobody has.
    (lanes.get(key) ?? lanes.get(null)!).push(item);
  }
  return [...lanes].filter(([, own]) => own.length > 0).map(([key, own]) => ({ key, items: own }));
}
