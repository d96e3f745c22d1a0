import type { Instant } from "@/core/calendar/instant";
import { counted } from "@/core/formats/counted";
import type { Column } from "./column";
import type { Lane } from "./lane";
import { limitSentence, limitState, limitWords, type LimitState } from "./limit";
import {
  countsIn,
  isAllowance,
  weightIn,
  type CountedItem,
  type CountingBy,
  type CoveringLimit,
} from "./limited";

/*
 * Where the limits of a board stand on it: at the head of a column, in a cell, over a lane, beside a
 * person, over the whole.
 */

/** A limit with what counts against it, and how many of it have no size of their own. */
export interface CountedLimit extends CoveringLimit {
  count: number;
  unsized: number;
}

/** What a limit was from when on, and who said so; null for who is not known. */
export interface LimitChangeView {
  id: string;
  name: string;
  words: string;
  at: Instant;
  by: string | null;
}

/**
 * A limit with what counts against it: what is told of it, and some items.
 * @param limit with what counts beside the items
 */
export function withItems<T extends CountedItem>(
  limit: CountedLimit,
  items: readonly T[],
  by: CountingBy,
): CountedLimit {
  const counting = items.filter((item) => countsIn(limit, item, by));
  return {
    ...limit,
    count: counting.reduce((sum, item) => sum + weightIn(limit, item, by), limit.count),
    unsized: limit.unsized + counting.filter((item) => item.estimate === null).length,
  };
}

type Place = Pick<Column, "id" | "stateIds">;
const whole = ({ field }: CoveringLimit): boolean => field === null;

/** The limit that a column shows: that of its one state, or its own where it has several. */
export function limitOfColumn<L extends CoveringLimit>(
  limits: readonly L[],
  { id, stateIds }: Place,
): L | null {
  const [kind, owner] = stateIds.length === 1 ? ["state", stateIds[0]] : ["column", id];
  return limits.find((l) => whole(l) && l.ownerKind === kind && l.ownerId === owner) ?? null;
}

/** The limits that states have by themselves within a column of several. */
export const limitsOfStates = <L extends CoveringLimit>(
  limits: readonly L[],
  { stateIds }: Place,
): L[] =>
  stateIds.length === 1
    ? []
    : limits.filter((l) => whole(l) && l.ownerKind === "state" && stateIds.includes(l.ownerId));

/** The limits of a column that count only some of its items. */
export const narrowLimitsOf = <L extends CoveringLimit>(
  limits: readonly L[],
  { id }: Pick<Place, "id">,
): L[] => limits.filter((l) => !whole(l) && l.ownerKind === "column" && l.ownerId === id);

/** The limits over all that a board has in progress, the allowance for expedite items last. */
export const limitsOfBoard = <L extends CoveringLimit>(limits: readonly L[]): L[] =>
  limits
    .filter((l) => l.ownerKind === "board")
    .sort((a, b) => Number(isAllowance(a)) - Number(isAllowance(b)));

/** How much somebody may have in their hands. */
export const limitOfPerson = <L extends CoveringLimit>(
  limits: readonly L[],
  personId: string,
): L | null =>
  limits.find((l) => whole(l) && l.ownerKind === "person" && l.ownerId === personId) ?? null;

/** How many expedite items of a place go past its limit, which are drawn outside its bracket. */
export const passing = <T extends CountedItem>(
  limit: CoveringLimit | null,
  items: readonly T[],
  by: CountingBy,
): number =>
  limit?.expeditePasses !== true
    ? 0
    : items.filter(
        (item) =>
          item.classOfService === "expedite" &&
          countsIn({ ...limit, expeditePasses: false }, item, by),
      ).length;

type LaneOf = Pick<Lane<unknown>, "value" | "expedite">;

/** Whether a limit counts only what a lane is made of. */
const isOfLane = ({ field, value }: CoveringLimit, { value: of }: LaneOf): boolean =>
  of !== null && field === of.fact && value === of.key;

/** The limits in a cell: those of its column that count only what its lane is made of. */
export const limitsOfCell = <L extends CoveringLimit>(
  limits: readonly L[],
  column: Pick<Place, "id">,
  lane: LaneOf,
): L[] => narrowLimitsOf(limits, column).filter((limit) => isOfLane(limit, lane));

/** The limits over a lane: over what it is made by, and how much somebody may have in hand. */
export function limitsOfLane<L extends CoveringLimit>(limits: readonly L[], lane: LaneOf): L[] {
  if (lane.expedite) return limits.filter(isAllowance);
  const over = limits.filter((l) => l.ownerKind === "board" && isOfLane(l, lane));
  const { fact, key } = lane.value ?? {};
  const person = fact === "assigneeId" && key ? limitOfPerson(limits, key) : null;
  return person ? [person, ...over] : over;
}

/** How a limit stands, in words: "4 of 5", "size 13 of 20", "2 over". */
export function heldWords(limit: CountedLimit): { state: LimitState; words: string } {
  const state = limitState(limit.count, limit);
  const words = limitWords(state, limit);
  return { state, words: limit.unit === "size" ? `size ${words}` : words };
}

/** What a limit says and how it counts, for who points at it. */
export const limitTitle = (limit: CountedLimit, defaultSize: number): string =>
  [
    `${limit.name}: ${limitSentence({ ...limit, level: null })}`,
    limit.unit === "size" &&
      limit.unsized > 0 &&
      `${counted(limit.unsized, "item")} without a size, counted as ${defaultSize} each`,
    limit.expeditePasses && "expedite items go past it, through their allowance",
  ]
    .filter(Boolean)
    .join("; ");
