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

interface LaneItem {
  classOfService: string;
  assigneeId: string | null;
}

/**
 * Splits items into lanes. Expedite items always travel in a lane of their own on top; the others
 * follow by class of service or by assignee (in the order of `people`, "nobody yet" last). Lanes
 * without items are left out.
 */
export function lanes<T extends LaneItem>(
  items: readonly T[],
  by: LaneField,
  people: readonly { id: string; name: string }[],
): Lane<T>[] {
  const all: Lane<T>[] = [{ id: "expedite", name: "Expedite", expedite: true, items: [] }];
  if (by === "class of service")
    for (const name of CLASSES_OF_SERVICE.slice(1))
      all.push({
        id: name,
        name: name[0].toUpperCase() + name.slice(1),
        expedite: false,
        items: [],
      });
  if (by === "assignee") {
    for (const person of people)
      all.push({ id: person.id, name: person.name, expedite: false, items: [] });
    all.push({ id: "nobody", name: "Nobody yet", expedite: false, items: [] });
  }
  if (by === "none")
    all.push({ id: "everything", name: "Everything else", expedite: false, items: [] });
  const byId = new Map(all.map((lane) => [lane.id, lane]));
  for (const item of items) {
    const id =
      item.classOfService === "expedite"
        ? "expedite"
        : by === "class of service"
          ? item.classOfService
          : by === "assignee"
            ? (item.assigneeId ?? "nobody")
            : "everything";
    (byId.get(id) ?? byId.get("nobody") ?? all[all.length - 1]).items.push(item);
  }
  return all.filter((lane) => lane.items.length > 0);
}
