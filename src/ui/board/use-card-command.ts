"use client";
import { useCallback } from "react";
import type { Card } from "@/core/board/card";
import { sendCommand, undoCommand, type SentCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";

/** A command to the item of a card. */
export interface CardCommand {
  card: Card;
  /** What is shown of it until the server answers. */
  shown: Partial<Card>;
  command: SentCommand;
  /** What is told when it is done, with the way to undo it. */
  done: string;
}

/**
 * Sends commands to the items of cards: at once on the screen, then asked of the server; what is
 * refused is as it was before, and said.
 */
export function useCardCommand(putCard: (card: Card) => void) {
  return useCallback(
    /** @returns the card as it is then; null where it was refused */
    async ({ card, shown, command, done }: CardCommand): Promise<Card | null> => {
      putCard({ ...card, ...shown });
      try {
        const { card: stored, commandId } = await sendCommand(card.id, command);
        putCard(stored);
        tellDone(done, async () => putCard((await undoCommand(card.id, commandId)).card));
        return stored;
      } catch (error) {
        putCard({ ...card });
        tellProblem(error);
        return null;
      }
    },
    [putCard],
  );
}

export type SendCard = ReturnType<typeof useCardCommand>;
