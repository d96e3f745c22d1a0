import { and, eq, max, ne, notInArray, sql } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { item, itemEvent } from "@/db/schema";
import type { ProjectAccess } from "../people/access";
import type { Ask, Errand } from "./errand";

/** Each end of a link has its own way back: undoing one end leaves the other. */
const LINKS = ["linked", "unlinked"] as const;

/**
 * What an undone command did to other items is taken back: sub-tasks that it made are withdrawn
 * while nobody has begun them, duplicates that it took along go back. Where something else has
 * happened to one since, that one is left as it is.
 */
export async function undoOthers(
  tx: Transaction,
  access: ProjectAccess,
  undo: Errand,
  undoneCommandId: string,
): Promise<Errand[]> {
  const touched = await tx
    .select({
      itemId: itemEvent.itemId,
      lastSeq: max(itemEvent.seq),
      created: sql<boolean>`bool_or(${itemEvent.kind} = 'created')`,
      version: item.version,
    })
    .from(itemEvent)
    .innerJoin(item, eq(item.id, itemEvent.itemId))
    .where(
      and(
        eq(itemEvent.commandId, undoneCommandId),
        ne(itemEvent.itemId, undo.on.itemId),
        notInArray(itemEvent.kind, [...LINKS]),
      ),
    )
    .groupBy(itemEvent.itemId, item.version)
    .orderBy(itemEvent.itemId);
  return touched
    .filter((t) => !t.created || t.version === t.lastSeq)
    .map(({ itemId, created }) => ({
      on: { itemId, access },
      commandId: undo.commandId,
      ask: created ? WITHDRAW : ({ kind: "undo", commandId: undoneCommandId } as const),
      made: { cause: "undo" },
      ifRefused: "leave",
    }));
}

const WITHDRAW: Ask = {
  kind: "prepared",
  command: { kind: "withdraw", note: "The move that made it was undone." },
};
