"use client";
import { useCallback, useState } from "react";
import type { Card } from "@/core/board/card";
import { stateOf } from "@/core/workflow/workflow";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import type { Answers } from "@/ui/item/ask-form";
import { tellDone } from "@/ui/kit/notice";
import { problemOf, type Problem } from "@/ui/kit/request";
import type { BoardView } from "@/core/board/board-view";

/** A move that was not made: shown beside the card, with what would make it possible. */
export interface Stopped {
  cardId: string;
  to: string;
  verb: string;
  problem: Problem;
  given: Answers;
}

/**
 * Moves of cards: at once on the screen, then asked of the server; refused ones slide back and say
 * why.
 */
export function useMoves(
  view: Pick<BoardView, "workflows" | "types">,
  putCard: (card: Card) => void,
  moving: Set<string>,
) {
  const [stopped, setStopped] = useState<Stopped | null>(null);

  const workflowOf = useCallback(
    (card: Card) =>
      view.workflows.find((w) => w.id === view.types.find((t) => t.id === card.typeId)?.workflowId),
    [view],
  );

  const moveTo = useCallback(
    async (card: Card, to: string, verb: string, given: Answers = { answers: {} }) => {
      const workflow = workflowOf(card);
      const state = workflow && stateOf(workflow, to);
      moving.add(card.id);
      setStopped(null);
      if (state) putCard({ ...card, stateId: to, stateKind: state.kind });
      try {
        const { card: stored, commandId } = await sendCommand(card.id, {
          kind: "move",
          from: card.stateId,
          to,
          ...given,
        });
        putCard(stored);
        tellDone(`${card.key} is in ${state?.name ?? "another state"}.`, async () =>
          putCard((await undoCommand(card.id, commandId)).card),
        );
      } catch (error) {
        putCard(card);
        setStopped({ cardId: card.id, to, verb, problem: problemOf(error), given });
      }
      moving.delete(card.id);
    },
    [workflowOf, putCard, moving],
  );

  return { stopped, setStopped, moveTo, workflowOf };
}

export type Moves = ReturnType<typeof useMoves>;
