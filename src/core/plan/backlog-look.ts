import { z } from "zod";
import { isFactName, type FactName } from "@/core/condition/facts";
import { isCounted, isListed, MOST_COUNTED_FIELDS } from "@/core/item/list/listed";
import { isColumn } from "@/core/view/look";

/** A column of the backlog: what an item says of a fact, or what it stands under. */
export type BacklogColumn = FactName | "parent";

/** How the rows of a backlog are put together: as one list, by state, or by sprint. */
export const BACKLOG_ORDERS = ["one list", "by state", "by sprint"] as const;
export type BacklogOrders = (typeof BACKLOG_ORDERS)[number];

/** How somebody looks at a backlog; nobody else sees it so. */
export interface BacklogLook {
  order: BacklogOrders;
  /** What each row says, from left to right. */
  columns: readonly BacklogColumn[];
  /** The fields whose values stand beside it with counts. */
  counts: readonly FactName[];
}

export const USUAL_BACKLOG_LOOK: BacklogLook = {
  order: "one list",
  columns: ["priority", "assigneeId", "estimate"],
  counts: [],
};

/** So many columns a backlog has at most. */
export const MOST_BACKLOG_COLUMNS = 10;

/** Whether a backlog can have a column of that name. */
export const isBacklogColumn = (name: string): name is BacklogColumn =>
  name === "parent" || (isFactName(name) && isColumn(name) && isListed(name));

/** Whether the values of a fact of that name can be counted. */
const isCountedName = (name: string): name is FactName => isFactName(name) && isCounted(name);

const name = z.string().max(100);
const columns = z
  .array(name.refine(isBacklogColumn, "There is no such column."))
  .max(MOST_BACKLOG_COLUMNS, `A backlog has ${MOST_BACKLOG_COLUMNS} columns at most.`);
const counts = z
  .array(name.refine(isCountedName, "This field cannot be counted."))
  .max(MOST_COUNTED_FIELDS);

export const backlogLookSchema = z.object({ order: z.enum(BACKLOG_ORDERS), columns, counts });

/** Names in an address, with a comma between them. */
const listed = z
  .string()
  .max(1_200)
  .default("")
  .transform((text) => (text === "" ? [] : text.split(",")));
export const backlogColumns = listed.pipe(columns);
export const backlogCounts = listed.pipe(counts);

/** A look as it was stored once: what is not known any more is left out. */
export function storedBacklogLook(stored: unknown): BacklogLook {
  const read = z
    .object({ order: z.enum(BACKLOG_ORDERS), columns: z.array(name), counts: z.array(name) })
    .safeParse(stored);
  if (!read.success) return USUAL_BACKLOG_LOOK;
  const { order, columns, counts } = read.data;
  return {
    order,
    columns: columns.filter(isBacklogColumn),
    counts: counts.filter(isCountedName),
  };
}

/** The facts among some columns. */
export const factsOfColumns = (columns: readonly BacklogColumn[]): FactName[] =>
  columns.filter((column): column is FactName => column !== "parent");
