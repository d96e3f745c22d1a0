import { v7 as newId } from "uuid";
import type { z } from "zod";
import type { Card } from "@/core/board/card";
import { itemContract } from "@/core/item/contract";
import type { commandRequest, createItemBody } from "@/core/item/request";
import { ask } from "@/ui/kit/request";
import { answeredFirst } from "./answered-first";
import { askNotWhy, askWhy } from "./ask-why";

/** What the interface asks of items. */
export type SentCommand = z.input<typeof commandRequest>;

type NewItemAsked = z.input<typeof createItemBody>;

interface Sent {
  card: Card;
  commandId: string;
}

/**
 * Sends a command. What an edit still needs is asked for over the page; a move asks where it is
 * made. @throws Problem
 */
export async function sendCommand(itemId: string, command: SentCommand): Promise<Sent> {
  if (command.kind !== "edit") return sendOnce(itemId, command);
  return answeredFirst(({ answers, overrideReason }) => {
    const changes = { ...command.changes, ...answers } as typeof command.changes;
    return sendOnce(itemId, { ...command, changes, overrideReason });
  });
}

/** Its key stays the same when it does not get through and is sent again. */
async function sendOnce(itemId: string, command: SentCommand): Promise<Sent> {
  const commandId = newId();
  const { card, asksWhy } = await ask(itemContract.command, {
    body: { commandId, itemId, command },
  });
  if (asksWhy) askWhy(card.key, asksWhy);
  else if (command.kind === "undo") askNotWhy(itemId);
  return { card, commandId };
}

/** Takes back a command that was the item's last. @throws Problem */
export const undoCommand = (itemId: string, commandId: string) =>
  sendCommand(itemId, { kind: "undo", commandId });

/**
 * Makes an item; what it still needs is asked for over the page.
 * @param commandId of the first try; a new one where it is tried with answers
 * @throws Problem
 */
export async function makeItem(
  asked: Omit<NewItemAsked, "commandId">,
  commandId = newId(),
): Promise<Card> {
  const { card } = await answeredFirst(({ answers, overrideReason }) => {
    const answered = overrideReason !== undefined || Object.keys(answers).length > 0;
    const fields = { ...asked.fields, ...answers } as typeof asked.fields;
    return ask(itemContract.make, {
      body: { ...asked, commandId: answered ? newId() : commandId, fields, overrideReason },
    });
  });
  return card;
}
