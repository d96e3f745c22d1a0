import type { ItemEvent, ItemEventKind } from "./event";

/** Kinds that change where items are, or whether work on them goes on. */
const COUNTED: ReadonlySet<ItemEventKind> = new Set([
  "created",
  "changed project",
  "moved",
  "undone",
  "withdrawn",
  "brought back",
  "blocked",
  "lifted",
  "marked ready",
  "ready taken back",
]);

/** Fields that what a project counts is divided by, or that decide who sees the item. */
const COUNTED_FIELDS: ReadonlySet<string> = new Set([
  "restricted",
  "assigneeId",
  "reviewerId",
  "estimate",
  "typeId",
  "classOfService",
]);

/** Whether some events change what a project counts, or who may see the item. */
export const changesCounts = (events: readonly ItemEvent[]): boolean =>
  events.some((e) => COUNTED.has(e.kind) || (e.kind === "changed" && COUNTED_FIELDS.has(e.field)));
