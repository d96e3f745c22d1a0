import { isDerived } from "@/core/item/own-field";
import type { Condition } from "@/core/condition/condition";
import {
  factOf,
  NOTHING_AROUND,
  ownFieldOf,
  type AskedAt,
  type FactName,
} from "@/core/condition/facts";
import { capital } from "@/core/formats/capital";
import { factLabel, optionsOf, type Vocabulary } from "@/core/condition/vocabulary";
import type { ItemSnapshot } from "@/core/item/fields";
import { countedAt, valueMeaning } from "@/core/item/list/counted-values";
import { groupLabel, groupSortKey, type GroupKey } from "@/core/item/list/group";
import { compareKeys } from "@/core/item/list/order";
import { CARD_FIELDS } from "./card";
import { areByPeople, type Lanes } from "./lanes-by";

export interface Lane<T> {
  id: string;
  name: string;
  /** The expedite lane stands above all others, whatever the lanes are made by. */
  expedite: boolean;
  /** The value that its items share, where lanes are by a field. */
  value: { fact: FactName; key: GroupKey } | null;
  /** The item that its items stand under; null: under none that has a lane. */
  parentId: string | null;
  /** What holds for all that travels there; null where nothing does, as of the rest. */
  meaning: Condition | null;
  items: T[];
}

/** What tells in which lane an item, or a group of items that are alike, travels. */
export type LaneItem = Partial<ItemSnapshot> & Pick<ItemSnapshot, "classOfService" | "assigneeId">;

/** How lanes are made, with all that the names and the places of items in them need. */
export interface LaneCut {
  lanes: Lanes;
  vocabulary: Vocabulary;
  at: AskedAt;
  /** The people of the team that lanes are limited to; null: they are not. */
  members: ReadonlySet<string> | null;
  /** The lanes of items, and their names, where cards do not say them themselves. */
  told: LanesTold;
}

/** What the server says of lanes. */
export interface LanesTold {
  /** By the id of the item: a value, or the place of a condition among the others. */
  keys: Readonly<Record<string, GroupKey>>;
  /** By the id of an item that others stand under: what it is called. */
  names: Readonly<Record<string, string>>;
}

export const NOTHING_TOLD: LanesTold = { keys: {}, names: {} };

const REST = "everything";
const NONE = "nobody";
const EXPEDITE = "expedite";

/** Facts that follow from what a card has, beside the fields that it has as they are. */
const FOLLOW: readonly FactName[] = ["blocked", "ready", "age", "daysInState", "daysReady"];

/** Whether a card says by itself what a fact is. */
export function cardSays(fact: FactName): boolean {
  const own = ownFieldOf(fact);
  if (own) return !isDerived(own.kind);
  return (CARD_FIELDS as readonly string[]).includes(fact) || FOLLOW.includes(fact);
}

/** Whether cards say by themselves what lanes are made by. */
export const cardsSay = ({ by }: Lanes): boolean =>
  by.kind === "field" ? cardSays(by.fact) : by.kind !== "conditions";

/** Whether the groups in which finished items are counted say it too. */
export const groupsSay = ({ by }: Lanes): boolean =>
  by.kind === "none" ||
  (by.kind === "field" && (by.fact === "classOfService" || by.fact === "assigneeId"));

/** Whether the server has to be asked for the lanes of items, or for their names. */
export const asksForLanes = (lanes: Lanes): boolean =>
  !cardsSay(lanes) || lanes.by.kind === "parent";

/** The value that an item has in lanes by a field; of several labels the first counts. */
function keyOf(fact: FactName, item: LaneItem, { lanes, at, told }: LaneCut): GroupKey {
  if (!cardsSay(lanes)) return told.keys[item.id ?? ""] ?? null;
  const asked = { ...NOTHING_AROUND, item: item as ItemSnapshot };
  return countedAt(fact, asked, at)[0];
}

/** In which lane something travels, by the lane's id. */
export function laneIdOf(cut: LaneCut): (item: LaneItem) => string {
  const { by } = cut.lanes;
  return (item) => {
    if (item.classOfService === "expedite") return EXPEDITE;
    switch (by.kind) {
      case "none":
        return REST;
      case "parent":
        return item.parentId ?? REST;
      case "conditions":
        return cut.told.keys[item.id ?? ""] ?? REST;
      case "field": {
        const key = keyOf(by.fact, item, cut);
        if (key === null) return NONE;
        return cut.members === null || cut.members.has(key) ? key : REST;
      }
    }
  };
}

type Named = Omit<Lane<never>, "items">;

const PLAIN: Omit<Named, "id" | "name"> = {
  expedite: false,
  value: null,
  parentId: null,
  meaning: null,
};

const EXPEDITE_LANE: Named = {
  ...PLAIN,
  id: EXPEDITE,
  name: "Expedite",
  expedite: true,
  value: { fact: "classOfService", key: "expedite" },
  meaning: { kind: "compare", fact: "classOfService", op: "is", value: "expedite" },
};

/** So many lanes by values are shown that hold nothing. */
const MOST_EMPTY = 40;

/** A lane of the items that have a value. */
function valueLane(fact: FactName, key: GroupKey, cut: LaneCut): Named {
  const { vocabulary, at, lanes } = cut;
  const none = areByPeople(lanes) ? "Nobody yet" : `No ${factLabel(fact, vocabulary)}`;
  const label = key === null ? none : labelled(fact, key, vocabulary);
  return {
    ...PLAIN,
    id: key ?? NONE,
    name: capital(label),
    value: { fact, key },
    meaning: valueMeaning(fact, key, at),
  };
}

/** What a value is called; somebody who left, or a sprint that is gone, has no name any more. */
function labelled(fact: FactName, key: string, vocabulary: Vocabulary): string {
  const { kind, options } = factOf(fact);
  if (kind !== "choice" && kind !== "set") return groupLabel(fact, key, vocabulary);
  const known = optionsOf(fact, vocabulary).find(({ id }) => id === key)?.label;
  const named = typeof options === "string" || (options !== null && "own" in options);
  return known ?? (named ? `a former ${factLabel(fact, vocabulary)}` : key);
}

/** The lanes by a field: of the values that items have, and at will of all that could be had. */
function valueLanes(fact: FactName, held: ReadonlySet<string>, cut: LaneCut): Named[] {
  const { vocabulary, lanes, members } = cut;
  const has = (id: string) => members === null || members.has(id);
  const offered = lanes.empty
    ? optionsOf(fact, vocabulary)
        .filter((option) => !option.past && has(option.id))
        .slice(0, MOST_EMPTY)
        .map(({ id }) => id)
    : [];
  const used = [...held].filter((id) => ![EXPEDITE, REST, NONE].includes(id));
  const keys = [...new Set([...offered, ...used])].filter(
    (key) => fact !== "classOfService" || key !== "expedite",
  );
  const place = (key: string) =>
    factOf(fact).kind === "set" ? key : groupSortKey(fact, key, vocabulary);
  const sorted = keys.sort((a, b) => compareKeys(place(a), place(b)) || compareKeys(a, b));
  const none = held.has(NONE) || (lanes.empty && factOf(fact).nullable);
  return [
    ...sorted.map((key) => valueLane(fact, key, cut)),
    ...(none ? [valueLane(fact, null, cut)] : []),
  ];
}

/** The lanes below the one for expedite items, in their order, without the rest. */
function namedLanes(held: ReadonlySet<string>, cut: LaneCut): Named[] {
  const { lanes, told } = cut;
  switch (lanes.by.kind) {
    case "none":
      return [];
    case "field":
      return valueLanes(lanes.by.fact, held, cut);
    case "parent":
      return [...held]
        .filter((id) => id !== EXPEDITE && id !== REST)
        .map((id) => ({ ...PLAIN, id, name: told.names[id] ?? "…", parentId: id }))
        .sort((a, b) => compareKeys(a.name, b.name) || compareKeys(a.id, b.id));
    case "conditions":
      return lanes.by.of
        .map(({ name, condition }, i) => ({ ...PLAIN, id: String(i), name, meaning: condition }))
        .filter(({ id }) => lanes.empty || held.has(id));
  }
}

/** What stands where no lane is: all of it where there are none. */
const restLane = ({ lanes }: LaneCut): Named => ({
  ...PLAIN,
  id: REST,
  name: lanes.by.kind === "parent" ? "Under nothing" : "Everything else",
  meaning: lanes.by.kind === "none" ? { kind: "all", of: [] } : null,
});

/**
 * Splits items into lanes. Expedite items always travel in a lane of their own on top; the others by
 * what the lanes are made by, what is in none of them in the rest, below or above. Lanes that hold
 * nothing are left out unless they are asked for.
 * @param beside what else the lanes hold, without being among the items
 */
export function lanes<T extends LaneItem>(
  items: readonly T[],
  cut: LaneCut,
  beside: readonly LaneItem[] = [],
): Lane<T>[] {
  const idOf = laneIdOf(cut);
  const held = new Map<string, T[]>(beside.map((item) => [idOf(item), []]));
  for (const item of items) {
    const id = idOf(item);
    const lane = held.get(id);
    if (lane) lane.push(item);
    else held.set(id, [item]);
  }
  const named = namedLanes(new Set(held.keys()), cut);
  const rest = held.has(REST) ? [restLane(cut)] : [];
  const below = cut.lanes.rest === "above" ? [...rest, ...named] : [...named, ...rest];
  return [...(held.has(EXPEDITE) ? [EXPEDITE_LANE] : []), ...below].map((lane) => ({
    ...lane,
    items: held.get(lane.id) ?? [],
  }));
}
