import { transact } from "@/db/connection";
import type { Viewer } from "../people/viewer";
import { recordCommand } from "./command-key";
import { throughDoor } from "./door";
import { textOf } from "./store-emptied";
import { enterItem } from "./enter";

/**
 * Takes a text out of an item and out of its history, wherever the item says the same: a password
 * that was pasted by mistake. That it stood there, who emptied it and why stays on record.
 * @throws Refused when there is no such text, it is empty already, or the person may not do it
 */
export async function emptyText(
  viewer: Viewer,
  asked: { commandId: string; itemId: string; textId: string; why: string },
): Promise<void> {
  const { commandId, itemId, textId, why } = asked;
  await transact(async (tx) => {
    const on = await enterItem(tx, viewer, itemId, "empty text");
    const what = `empty ${textId}`;
    if (!(await recordCommand(tx, commandId, viewer.personId, { itemId, what }))) return;
    const command = { kind: "empty", textId, why, body: await textOf(tx, itemId, textId) } as const;
    await throughDoor(tx, viewer, { on, commandId, ask: { kind: "prepared", command } });
  });
}
