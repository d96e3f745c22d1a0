import { v7 as newId } from "uuid";
import type { z } from "zod";
import type { Card } from "@/core/board/card";
import { itemContract } from "@/core/item/contract";
import type { commandRequest } from "@/core/item/request";
import { ask } from "@/ui/kit/request";

/** What the interface asks of items. */
export type SentCommand = z.input<typeof commandRequest>;

/** Sends a command. Its key stays the same when it has to be sent again. @throws Problem */
export async function sendCommand(
  itemId: string,
  command: SentCommand,
): Promise<{ card: Card; commandId: string }> {
  const commandId = newId();
  const { card } = await ask(itemContract.command, {
    body: { commandId, itemId, command },
  });
  return { card, commandId };
}

/** Takes back a command that was the item's last. @throws Problem */
export const undoCommand = (itemId: string, commandId: string) =>
  sendCommand(itemId, { kind: "undo", commandId });
