import { and, eq, inArray, or, sql } from "drizzle-orm";
import { EMPTIED } from "@/core/item/event-texts";
import { transact, type Transaction } from "@/db/connection";
import { itemEvent, itemFile, itemText, shownPicture } from "@/db/schema";
import { throwAway } from "../files/store";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { enterByKey } from "./by-key";
import { recordCommand } from "./command-key";
import { throughDoor } from "./door";

/**
 * Removes a file of an item for good: its bytes, unless something else holds the same, and what it
 * was called, from the history too. That it was there, who removed it and why stays on record.
 * @throws Refused when there is no such file, it is gone already, or the person may not do it
 */
export async function emptyItemFile(
  viewer: Viewer,
  key: string,
  { fileId, commandId, why }: { fileId: string; commandId: string; why: string },
  now = Date.now(),
): Promise<void> {
  const sha256 = await transact(async (tx) => {
    let entered = await enterByKey(tx, viewer, key, "empty text");
    const { itemId } = entered;
    const what = `empty file ${fileId}`;
    if (!(await recordCommand(tx, commandId, viewer.personId, { itemId, what }))) return null;
    const [row] = await tx
      .select()
      .from(itemFile)
      .where(and(sql`${itemFile.id}::text = ${fileId}`, eq(itemFile.itemId, itemId)));
    if (!row) throw notFound("file");
    if (row.sha256 === null) throw invalid("It was removed for good.", "Nothing more to do.");
    for (const { id: textId, body } of await namesInHistory(tx, itemId, row.id)) {
      const command = { kind: "empty", textId, body, why } as const;
      const ask = { kind: "prepared", command } as const;
      entered = {
        ...entered,
        before: await throughDoor(tx, viewer, { on: entered, commandId, ask }),
      };
    }
    await tx
      .update(itemFile)
      .set({ sha256: null, name: EMPTIED, removedAt: row.removedAt ?? now })
      .where(eq(itemFile.id, row.id));
    // What is shown of it to people outside goes too.
    await tx
      .delete(shownPicture)
      .where(and(eq(shownPicture.itemId, itemId), eq(shownPicture.sha256, row.sha256)));
    return row.sha256;
  });
  if (sha256 !== null) await throwAway(sha256);
}

/** What the history calls a file, each name once. */
async function namesInHistory(
  tx: Transaction,
  itemId: string,
  fileId: string,
): Promise<{ id: string; body: string }[]> {
  const named = (side: "old" | "new") => sql`${itemEvent[side]} ->> 'fileId' = ${fileId}`;
  const rows = await tx
    .select({ id: itemText.id, body: itemText.body })
    .from(itemText)
    .innerJoin(
      itemEvent,
      and(eq(itemEvent.itemId, itemText.itemId), eq(itemEvent.seq, itemText.seq)),
    )
    .where(
      and(
        eq(itemText.itemId, itemId),
        inArray(itemEvent.kind, ["file added", "file removed"]),
        or(named("old"), named("new")),
      ),
    );
  const byName = new Map(rows.map((row) => [row.body, row]));
  byName.delete(EMPTIED);
  return [...byName.values()];
}
