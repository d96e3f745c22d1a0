import { and, count, eq, isNull } from "drizzle-orm";
import type { ItemCommand } from "@/core/item/command";
import type { FileNamed } from "@/core/item/event";
import { MOST_ITEM_FILES } from "@/core/item/item-file";
import type { CommandRequest } from "@/core/item/request";
import type { Reader, Transaction } from "@/db/connection";
import { itemFile } from "@/db/schema";
import { invalid, notFound } from "../refused";
import type { EnteredItem } from "./enter";

type FileRequest = Extract<CommandRequest, { kind: "remove file" | "put file back" }>;

/** What it means to take a file off an item, or to put it back. @throws Refused */
export async function fileCommand(
  tx: Transaction,
  { before }: EnteredItem,
  { kind, fileId }: FileRequest,
): Promise<ItemCommand> {
  const [row] = await tx
    .select()
    .from(itemFile)
    .where(and(eq(itemFile.id, fileId), eq(itemFile.itemId, before.id)));
  if (!row) throw notFound("file");
  if ((row.removedAt === null) !== (kind === "remove file"))
    throw invalid(
      kind === "remove file" ? "It was taken off already." : "It is there already.",
      "Nothing more to do.",
    );
  if (row.sha256 === null)
    throw invalid("It was removed for good.", "Put the file to the item anew.");
  if (kind === "put file back") await refuseTooManyFiles(tx, before.id);
  return { kind: kind === "remove file" ? "remove file" : "add file", fileId, name: row.name };
}

/** @throws Refused where an item has as many files as one may have */
export async function refuseTooManyFiles(reader: Reader, itemId: string): Promise<void> {
  const [{ n }] = await reader
    .select({ n: count() })
    .from(itemFile)
    .where(and(eq(itemFile.itemId, itemId), isNull(itemFile.removedAt)));
  if (n >= MOST_ITEM_FILES)
    throw invalid(
      `It has ${MOST_ITEM_FILES} files already.`,
      "Take one off first, or put the rest to an item under it.",
    );
}

/** Whether a file stands on its item, as the history says it now. */
export async function turnFile(
  tx: Transaction,
  { kind, fileId }: FileNamed & { kind: "add file" | "remove file" },
  at: number,
): Promise<void> {
  const removedAt = kind === "remove file" ? at : null;
  await tx.update(itemFile).set({ removedAt }).where(eq(itemFile.id, fileId));
}
