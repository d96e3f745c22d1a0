import { z } from "zod";
import { COLUMNS_BY } from "@/core/board/columns-by";
import { LIMIT_UNITS } from "@/core/board/limit-counting";
import { LIMITED_FIELDS } from "@/core/board/limited";
import { conditionSchema } from "@/core/condition/condition";
import { isAmount } from "@/core/item/amount";
import { listedFact } from "@/core/item/list/query";

const id = z.string().min(1).max(64);
const name = z.string().trim().min(1, "A name is needed.").max(60, "Use at most 60 characters.");

const column = z.object({
  id,
  stage: name,
  name: z.string().trim().max(60),
  part: z.enum(["waiting", "working", "finished"]),
  stateIds: z.array(id).max(100),
});

/** What a board adds up of what has finished. */
export const summed = listedFact(isAmount).nullable();

/** Of how many items a board tells at once what became of them. */
export const MOST_CHANGES = 500;

/** What became of some items on a board. */
export const changesBody = z.object({
  board: id,
  ids: z.array(z.uuid()).max(MOST_CHANGES),
  /** Whether how much has finished is asked for as well. */
  finished: z.boolean(),
  sum: summed,
});
export type ChangesAsked = z.infer<typeof changesBody>;

/** What may be asked of the boards of a project. */
export const boardBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("save"),
    board: z.object({
      id,
      name,
      columnsBy: z.enum(COLUMNS_BY),
      scope: conditionSchema.nullable(),
      columns: z.array(column).max(60),
    }),
    /** The version that was seen; 0 for a board that is new. */
    seenVersion: z.number().int().min(0),
  }),
  z.object({ kind: z.literal("order columns"), boardId: id, columnIds: z.array(id).max(60) }),
  z.object({ kind: z.literal("order boards"), boardIds: z.array(id).max(60) }),
  z.object({ kind: z.literal("remove"), boardId: id }),
  /** What items without a size count for, where limits add up sizes. */
  z.object({ kind: z.literal("default size"), size: z.number().positive().max(1_000) }),
  /** Puts the states of a workflow that no board shows onto the first board. */
  z.object({ kind: z.literal("show workflow"), workflowId: id }),
  /** On a free board: puts an item into a list, below another or on top, or takes it out of all. */
  z.object({
    kind: z.literal("place"),
    boardId: id,
    itemId: z.uuid(),
    columnId: id.nullable(),
    below: z.uuid().nullable(),
  }),
]);
export type BoardRequest = z.infer<typeof boardBody>;

const limit = z.number().int().min(0).max(10_000).nullable();

const bounds = {
  min: limit,
  max: limit,
  minFirm: z.boolean(),
  maxFirm: z.boolean(),
  unit: z.enum(LIMIT_UNITS).default("items"),
  level: z.number().int().min(0).max(9).nullable().default(null),
};
const inOrder = ({ min, max }: { min: number | null; max: number | null }) =>
  min === null || max === null || min <= max;
const CROSSED = { message: "The minimum is above the maximum.", path: ["min"] };

/** A limit on a board; without bounds it ends. */
export const limitBody = z
  .object({
    boardId: id,
    seenVersion: z.number().int().positive(),
    on: z.discriminatedUnion("kind", [
      /** One of several states of a column is named; else it is the column's, or its one state's. */
      z.object({ kind: z.literal("column"), columnId: id, stateId: id.optional() }),
      z.object({ kind: z.literal("board") }),
    ]),
    /** Only items with this value count. */
    of: z
      .object({ field: z.enum(LIMITED_FIELDS), value: id })
      .nullable()
      .default(null),
    ...bounds,
    fixedDatePasses: z.boolean().default(false),
  })
  .refine(inOrder, CROSSED);
export type LimitRequest = z.infer<typeof limitBody>;

/** How much somebody may have in their hands, over all projects. */
export const personLimitBody = z
  .object({ personId: id, ...bounds, workedOnly: z.boolean().default(false) })
  .refine(inOrder, CROSSED);
export type PersonLimitRequest = z.infer<typeof personLimitBody>;
