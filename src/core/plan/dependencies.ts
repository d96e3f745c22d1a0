import { grouped } from "@/core/item/grouped";

/** An item as far as its place in a plan goes. */
export interface PlannedItem {
  id: string;
  key: string;
  teamId: string | null;
  /** The place of its sprint among those of the plan, from 0; null: in none yet. */
  place: number | null;
}

/** That one item waits for another. */
export interface WaitsFor {
  id: string;
  forId: string;
}

/** A dependency that the plan does not keep, or only just. */
export interface PlanConflict {
  item: PlannedItem;
  waitsFor: PlannedItem;
  /** It comes before what it waits for; or with it, by another team. */
  kind: "before" | "together";
}

/**
 * Dependencies that a plan breaks: an item in an earlier sprint than what it waits for, or in one while
 * that is in none; and those that it keeps only just: both in one sprint, by two teams.
 */
export function planConflicts(
  items: readonly PlannedItem[],
  waits: readonly WaitsFor[],
): PlanConflict[] {
  const byId = new Map(items.map((item) => [item.id, item]));
  const conflicts = waits.flatMap(({ id, forId }): PlanConflict[] => {
    const [item, waitsFor] = [byId.get(id), byId.get(forId)];
    if (!item || !waitsFor || item.place === null) return [];
    if (waitsFor.place === null || waitsFor.place > item.place)
      return [{ item, waitsFor, kind: "before" }];
    const apart = item.teamId !== null && waitsFor.teamId !== null;
    if (waitsFor.place === item.place && apart && item.teamId !== waitsFor.teamId)
      return [{ item, waitsFor, kind: "together" }];
    return [];
  });
  // What is broken stands first.
  return conflicts.sort((a, b) => (a.kind === b.kind ? 0 : a.kind === "before" ? -1 : 1));
}

/**
 * An item and all that waits for it, in order, each behind what it waits for, as far as it would come
 * too early where the item goes.
 * @param place of the sprint that the item goes into
 * @returns with the place that each goes into
 */
export function movedOn(
  items: readonly PlannedItem[],
  waits: readonly WaitsFor[],
  { id, place }: { id: string; place: number },
): { item: PlannedItem; place: number }[] {
  const byId = new Map(items.map((item) => [item.id, item]));
  const followers = grouped(waits, ({ forId }) => forId);
  const moved = new Map<string, number>();
  const next = [id];
  for (let at = next.shift(); at !== undefined; at = next.shift()) {
    const item = byId.get(at);
    if (!item || moved.has(at)) continue;
    const tooEarly = at === id || (item.place !== null && item.place < place);
    if (!tooEarly) continue;
    moved.set(at, place);
    next.push(...(followers.get(at) ?? []).map((waiting) => waiting.id));
  }
  return [...moved].map(([movedId, to]) => ({ item: byId.get(movedId)!, place: to }));
}

/**
 * The longest chain of items that wait for each other, from the one that waits for nothing: the one
 * whose sizes add up to most (the critical path of J. E. Kelley and M. R. Walker, "Critical-path
 * planning and scheduling", 1959, over sizes). Circles do not come up: they are refused when they are
 * made; one that is there all the same ends the chain.
 * @param items each with how long it is; what has no size counts as whoever asks says
 * @returns the ids in their order; none where nothing waits
 */
export function longestChain(
  items: readonly { id: string; size: number }[],
  waits: readonly WaitsFor[],
): string[] {
  const known = new Set(items.map(({ id }) => id));
  const before = new Map<string, string[]>();
  for (const { id, forId } of waits)
    if (known.has(id) && known.has(forId)) before.set(id, [...(before.get(id) ?? []), forId]);
  const sizes = new Map(items.map(({ id, size }) => [id, size]));
  const chains = new Map<string, Chain>();
  const open = new Set<string>();
  const chainTo = (id: string): Chain => {
    const done = chains.get(id);
    if (done) return done;
    if (open.has(id)) return NO_CHAIN;
    open.add(id);
    const longest = (before.get(id) ?? []).map(chainTo).reduce(longer, NO_CHAIN);
    open.delete(id);
    const own = { ids: [...longest.ids, id], size: longest.size + sizes.get(id)! };
    chains.set(id, own);
    return own;
  };
  const all = items.map(({ id }) => chainTo(id)).filter(({ ids }) => ids.length > 1);
  return all.reduce(longer, NO_CHAIN).ids;
}

interface Chain {
  ids: string[];
  size: number;
}

const NO_CHAIN: Chain = { ids: [], size: 0 };

/** The one that is longer; where both are as long, that of more items, else the first. */
const longer = (a: Chain, b: Chain): Chain =>
  b.size > a.size || (b.size === a.size && b.ids.length > a.ids.length) ? b : a;
