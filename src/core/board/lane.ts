import { CLASSES_OF_SERVICE } from "@/core/item/fields";

export const LANE_FIELDS = ["class of service", "assignee", "none"] as const;
export type LaneField = (typeof LANE_FIELDS)[number];

export interface Lane<T> {
  id: string;
  name: string;
  /** The expedite lane stands above all others, whatever the lanes are made by. */
  expedite: boolean;
  items: T[];
}

/** What tells in which lane an item, or a group of items that are alike, travels. */
export interface LaneItem {
  classOfService: string;
  assigneeId: string | null;
}

interface Named {
  id: string;
  name: string;
}

const REST: Named = { id: "everything", name: "Everything else" };
const NOBODY: Named = { id: "nobody", name: "Nobody yet" };

const capital = (name: string): string => name[0].toUpperCase() + name.slice(1);

/** The lanes below the one for expedite items, in their order. */
function lanesBy(by: LaneField, people: readonly Named[]): Named[] {
  if (by === "class of service")
    return CLASSES_OF_SERVICE.slice(1).map((name) => ({ id: name, name: capital(name) }));
  return by === "assignee" ? [...people, NOBODY] : [REST];
}

/** In which lane something travels, by the lane's id. */
export function laneIdOf(by: LaneField, people: readonly Named[]): (item: LaneItem) => string {
  const known = new Set(people.map((person) => person.id));
  const classes: readonly string[] = CLASSES_OF_SERVICE;
  return ({ classOfService, assigneeId }) => {
    if (classOfService === "expedite") return "expedite";
    // A class that nobody knows is not lost.
    if (by === "class of service")
      return classes.includes(classOfService) ? classOfService : classes.at(-1)!;
    if (by === "none") return REST.id;
    return assigneeId !== null && known.has(assigneeId) ? assigneeId : NOBODY.id;
  };
}

/**
 * Splits items into lanes. Expedite items always travel in a lane of their own on top; the others
 * follow by class of service or by assignee (in the order of `people`, "nobody yet" last). Lanes
 * that hold nothing are left out.
 * @param beside what else the lanes hold, without being among the items
 */
export function lanes<T extends LaneItem>(
  items: readonly T[],
  by: LaneField,
  people: readonly Named[],
  beside: readonly LaneItem[] = [],
): Lane<T>[] {
  const idOf = laneIdOf(by, people);
  const held = new Map<string, T[]>(beside.map((item) => [idOf(item), []]));
  for (const item of items) {
    const id = idOf(item);
    const lane = held.get(id);
    if (lane) lane.push(item);
    else held.set(id, [item]);
  }
  const named = [{ id: "expedite", name: "Expedite" }, ...lanesBy(by, people)];
  return named
    .filter(({ id }) => held.has(id))
    .map((lane) => ({ ...lane, expedite: lane.id === "expedite", items: held.get(lane.id)! }));
}
