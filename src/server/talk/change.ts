import { and, eq, inArray } from "drizzle-orm";
import { EMPTIED } from "@/core/item/event-texts";
import type { CommentSign } from "@/core/talk/comment";
import { transact, type Transaction } from "@/db/connection";
import { comment, commentSign, itemEvent, itemLook, itemText } from "@/db/schema";
import { announce } from "../events/announce";
import { throughDoor } from "../item/door";
import { enterByKey } from "../item/by-key";
import type { EnteredItem } from "../item/enter";
import { recordCommand } from "../item/command-key";
import type { Viewer } from "../people/viewer";
import { notFound, Refused } from "../refused";
import { refuse } from "@/core/workflow/refusal";

/** Notes that a person looked at an item's talk and history now. */
export async function lookAt(viewer: Viewer, key: string, now = Date.now()): Promise<void> {
  await transact(async (tx) => {
    const { itemId } = await enterByKey(tx, viewer, key, "read project");
    await tx
      .insert(itemLook)
      .values({ personId: viewer.personId, itemId, at: now })
      .onConflictDoUpdate({ target: [itemLook.personId, itemLook.itemId], set: { at: now } });
  });
}

/** Puts a sign to a comment, or takes one's own away. */
export async function signComment(
  viewer: Viewer,
  key: string,
  { commentId, sign, on }: { commentId: string; sign: CommentSign; on: boolean },
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { itemId, access } = await enterByKey(tx, viewer, key, "comment item");
    const [there] = await tx
      .select({ goneAt: comment.goneAt })
      .from(comment)
      .where(and(eq(comment.itemId, itemId), eq(comment.id, commentId)));
    if (!there || there.goneAt !== null) throw notFound("comment");
    const { personId } = viewer;
    if (on)
      await tx
        .insert(commentSign)
        .values({ itemId, commentId, personId, sign, at: now })
        .onConflictDoNothing();
    else
      await tx
        .delete(commentSign)
        .where(
          and(
            eq(commentSign.itemId, itemId),
            eq(commentSign.commentId, commentId),
            eq(commentSign.personId, personId),
            eq(commentSign.sign, sign),
          ),
        );
    await announce(tx, access.project.id, { kind: "talk changed", data: { itemId } }, now);
  });
}

/**
 * Removes for good what a comment says and ever said: a password that was pasted by mistake. That
 * it was there, who removed it and why stays on record.
 * @throws Refused when the person may not, or nothing of it is left
 */
export async function emptyComment(
  viewer: Viewer,
  key: string,
  { commandId, commentId, why }: { commandId: string; commentId: string; why: string },
): Promise<void> {
  await transact(async (tx) => {
    const on = await enterByKey(tx, viewer, key, "empty text");
    const { itemId } = on;
    const what = `empty ${commentId}`;
    if (!(await recordCommand(tx, commandId, viewer.personId, { itemId, what }))) return;
    const texts = await textsOfComment(tx, itemId, commentId);
    const left = texts.filter(({ body }) => body !== EMPTIED && body !== "");
    if (left.length === 0)
      throw new Refused(
        refuse("invalid", "Nothing of this comment is left.", "Nothing more to do."),
      );
    const seen = new Set<string>();
    let entered: EnteredItem = on;
    for (const { id: textId, body } of left) {
      // What is emptied is emptied wherever the item says the same.
      if (seen.has(body)) continue;
      seen.add(body);
      const before = await throughDoor(tx, viewer, {
        on: entered,
        commandId,
        ask: { kind: "prepared", command: { kind: "empty", textId, body, why } },
      });
      entered = { ...entered, before };
    }
  });
}

/** All that a comment says and ever said. */
async function textsOfComment(
  tx: Transaction,
  itemId: string,
  commentId: string,
): Promise<{ id: string; body: string }[]> {
  const events = await tx
    .select({ seq: itemEvent.seq, new: itemEvent.new })
    .from(itemEvent)
    .where(
      and(eq(itemEvent.itemId, itemId), inArray(itemEvent.kind, ["commented", "comment edited"])),
    );
  const own = events.filter(
    (event) => (event.new as { commentId?: string } | null)?.commentId === commentId,
  );
  if (own.length === 0) throw notFound("comment");
  return tx
    .select({ id: itemText.id, body: itemText.body })
    .from(itemText)
    .where(
      and(
        eq(itemText.itemId, itemId),
        inArray(
          itemText.seq,
          own.map(({ seq }) => seq),
        ),
      ),
    );
}
