import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";
import { WALK_ORDERS, type WalkView } from "./walk";

const id = z.uuid();
const text = z
  .string()
  .trim()
  .min(1, "Write what it is.")
  .max(2_000, "Use at most 2,000 characters.");

export const walkBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("start"),
    id,
    board: z.string().min(1).max(64),
    order: z.enum(WALK_ORDERS),
    minutes: z.number().int().min(1).max(240),
  }),
  /** Everybody looks at an item; those that were passed by on the way count as seen. */
  z.object({
    kind: z.literal("go"),
    id,
    itemId: id,
    passed: z.array(id).max(500).default([]),
  }),
  /** Something is agreed on: it stands among the item's comments. */
  z.object({
    kind: z.literal("agree"),
    id,
    noteId: id,
    itemId: id,
    text,
    ownerId: z.string().min(1).max(64).nullable(),
    dueOn: z.iso.date().nullable(),
  }),
  z.object({ kind: z.literal("later"), id, noteId: id, itemId: id, text }),
  z.object({ kind: z.literal("take back"), id, noteId: id }),
  /** Whoever says so leads it from now on. */
  z.object({ kind: z.literal("lead"), id }),
  z.object({ kind: z.literal("end"), id }),
]);
export type WalkRequest = z.output<typeof walkBody>;

export const walkContract = {
  /** The walks of a board: the one that is going on, and those that are over. */
  read: contract({
    method: "GET",
    path: "/api/projects/:key/walks",
    query: z.object({ board: z.string().min(1).max(64) }),
    answer: answered<WalkView>(),
    kept: "walks",
  }),
  change: contract({
    method: "POST",
    path: "/api/projects/:key/walks",
    body: walkBody,
    answer: answered<WalkView>(),
  }),
};
