import type { EditableFields, ItemSnapshot } from "@/core/item/fields";
import { isInProgress, type StateId } from "@/core/workflow/state";
import type { ColumnLimit } from "./limit";
import type { LimitCounting } from "./limit-counting";

/*
 * What a limit is on, what counts against it, and how much. The database counts by the same rules
 * (`server/board/count-limits.ts`); a test holds the two against each other.
 */

/** What a limit is on: a state, a column of several, all that a board has in progress, a person. */
export const LIMIT_OWNERS = ["state", "column", "board", "person"] as const;
export type LimitOwnerKind = (typeof LIMIT_OWNERS)[number];

/** Stored fields that a limit can narrow what it counts by: that of a lane, a cell, a class. */
export const LIMITED_FIELDS = [
  "classOfService",
  "typeId",
  "teamId",
  "assigneeId",
  "priority",
  "origin",
] as const satisfies readonly (keyof EditableFields)[];
export type LimitedField = (typeof LIMITED_FIELDS)[number];

/** A limit in force. */
export interface Limit extends ColumnLimit, LimitCounting {
  id: string;
  ownerKind: LimitOwnerKind;
  ownerId: string;
  /** Only items with this value count; both null where all do. */
  field: LimitedField | null;
  value: string | null;
}

/** A limit with what it covers. */
export interface CoveringLimit extends Limit {
  name: string;
  /** Null for a person's: over all projects. */
  boardId: string | null;
  /** Of a person's none: it covers what is in their hands anywhere. */
  stateIds: readonly StateId[];
  level: number;
  /** Whether expedite items go past it, by the allowance that its board has for them. */
  expeditePasses: boolean;
}

/** Whether a limit is the allowance of a board: how many expedite items it takes. */
export const isAllowance = ({ ownerKind, field, value }: Limit): boolean =>
  ownerKind === "board" && field === "classOfService" && value === "expedite";

/** What of an item decides what it counts for. */
export type CountedItem = Pick<
  ItemSnapshot,
  "stateId" | "stateKind" | "estimate" | "reviewerId" | LimitedField
>;

/** What counting needs to know beside the items. */
export interface CountingBy {
  levelOf: (typeId: string) => number | undefined;
  /** States that the reviewer works in. */
  byReviewer: ReadonlySet<StateId>;
  /** What an item without a size counts for. */
  defaultSize: number;
}

/** Level 1, or the lowest of those that are there. */
export const usualLevel = (levels: readonly number[]): number =>
  levels.length === 0 || levels.includes(1) ? 1 : Math.min(...levels);

/** Whose hands an item is in: the assignee's, or the reviewer's where they work on it. */
export const inHandsOf = (
  { stateId, assigneeId, reviewerId }: Pick<ItemSnapshot, "stateId" | "assigneeId" | "reviewerId">,
  byReviewer: ReadonlySet<StateId>,
): string | null => (byReviewer.has(stateId) ? reviewerId : assigneeId);

/** Whether an item counts against a limit. */
export function countsIn(limit: CoveringLimit, item: CountedItem, by: CountingBy): boolean {
  if (by.levelOf(item.typeId) !== limit.level) return false;
  if (limit.expeditePasses && item.classOfService === "expedite") return false;
  if (limit.field !== null && item[limit.field] !== limit.value) return false;
  if (limit.ownerKind === "person")
    return (
      isInProgress(item.stateKind) &&
      (!limit.workedOnly || item.stateKind === "working") &&
      inHandsOf(item, by.byReviewer) === limit.ownerId
    );
  if (limit.ownerKind === "board" && !isInProgress(item.stateKind)) return false;
  return limit.stateIds.includes(item.stateId);
}

/** How much an item counts for against a limit: nothing, one, or its size. */
export const weightIn = (limit: CoveringLimit, item: CountedItem, by: CountingBy): number =>
  !countsIn(limit, item, by) ? 0 : limit.unit === "items" ? 1 : (item.estimate ?? by.defaultSize);

/** The facts of an item that can change what it counts for. */
const COUNTED_FACTS = [
  "stateId",
  "stateKind",
  "estimate",
  "reviewerId",
  ...LIMITED_FIELDS,
] as const satisfies readonly (keyof ItemSnapshot)[];

/** Whether something happened to an item that can matter for a limit. */
export const mattersForLimits = (before: CountedItem | null, after: CountedItem): boolean =>
  before === null || COUNTED_FACTS.some((fact) => before[fact] !== after[fact]);
