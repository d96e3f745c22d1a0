import { and, eq } from "drizzle-orm";
import type { EventOf } from "@/core/item/event";
import { EMPTIED } from "@/core/item/event-texts";
import type { Reader, Transaction } from "@/db/connection";
import { block, comment, itemText, timeEntry } from "@/db/schema";
import { notFound } from "../refused";

/** A text of an item's history. @throws Refused when it has none by this id */
export async function textOf(reader: Reader, itemId: string, textId: string): Promise<string> {
  const [text] = await reader
    .select({ body: itemText.body })
    .from(itemText)
    .where(and(eq(itemText.itemId, itemId), eq(itemText.id, textId)));
  if (!text) throw notFound("text");
  return text.body;
}

/** Empties what an item's rows beside its snapshot say of a text. */
export async function emptyStored(tx: Transaction, event: EventOf<"emptied">): Promise<void> {
  const { itemId, at, actorId, note, old } = event;
  const body = await textOf(tx, itemId, old.textId);
  await tx
    .update(comment)
    .set({ body: EMPTIED })
    .where(and(eq(comment.itemId, itemId), eq(comment.body, body)));
  await tx
    .update(block)
    .set({ cause: EMPTIED })
    .where(and(eq(block.itemId, itemId), eq(block.cause, body)));
  await tx
    .update(block)
    .set({ waitingFor: EMPTIED })
    .where(and(eq(block.itemId, itemId), eq(block.waitingFor, body)));
  await tx
    .update(timeEntry)
    .set({ note: EMPTIED })
    .where(and(eq(timeEntry.itemId, itemId), eq(timeEntry.note, body)));
  await tx
    .update(itemText)
    .set({ body: EMPTIED, emptiedAt: at, emptiedBy: actorId, whyEmptied: note })
    .where(and(eq(itemText.itemId, itemId), eq(itemText.body, body)));
}
