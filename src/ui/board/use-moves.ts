"use client";
import { useCallback, useState } from "react";
import type { Card } from "@/core/board/card";
import { inTurn } from "@/core/contract/in-turn";
import { stateOf } from "@/core/workflow/workflow";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import type { Answers } from "@/ui/item/ask-form";
import { tellDone } from "@/ui/kit/notice";
import { Problem, problemOf } from "@/ui/kit/request";
import { useCardCommand } from "./use-card-command";
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
 * Moves of one card that are on their way: where it really is, where it is shown, and how many are
 * still to come.
 */
export interface OnTheWay {
  really: Card;
  shown: Card;
  ahead: number;
  refused: boolean;
}

/** A card as it really is while it moves, when something newer is heard of it. */
export function hearMeanwhile(way: OnTheWay, card: Card): void {
  if (card.version > way.really.version) way.really = card;
}

/** What is said beside a card that stays where it is. */
const refusedAt = (card: Card, sentence: string): Stopped => ({
  cardId: card.id,
  to: card.stateId,
  verb: "Move",
  given: { answers: {} },
  problem: new Problem({
    status: 0,
    code: "not allowed",
    sentence,
    help: "It stays where it was.",
  }),
});

/**
 * Moves of cards: at once on the screen, then asked of the server; refused ones slide back and say
 * why. Moves of the same card are asked one after another, since each starts where the one before
 * leads; where one is refused, those that build on it are not asked.
 */
export function useMoves(
  view: Pick<BoardView, "workflows">,
  putCard: (card: Card) => void,
  moving: Map<string, OnTheWay>,
) {
  const send = useCardCommand(putCard);
  const [stopped, setStopped] = useState<Stopped | null>(null);

  // Above the projects types of several have the same id; the state tells which workflow it is.
  const workflowOf = useCallback(
    (card: Card) =>
      view.workflows.find(({ states }) => states.some(({ id }) => id === card.stateId)),
    [view],
  );

  /** Says beside a card why it stays where it is. */
  const refuse = useCallback(
    (card: Card, sentence: string) => setStopped(refusedAt(card, sentence)),
    [],
  );

  /** @returns whether it was moved */
  const moveTo = useCallback(
    async (card: Card, to: string, verb: string, given: Answers = { answers: {} }) => {
      const workflow = workflowOf(card);
      const state = workflow && stateOf(workflow, to);
      const begun = { really: card, shown: card, ahead: 0, refused: false };
      const way = moving.get(card.id) ?? begun;
      moving.set(card.id, way);
      way.ahead += 1;
      setStopped(null);
      if (state) {
        way.shown = { ...card, stateId: to, stateKind: state.kind };
        putCard(way.shown);
      }
      const command = { kind: "move", from: card.stateId, to, ...given } as const;
      await inTurn(`moves of ${card.id}`, 1, async () => {
        if (way.refused) return;
        try {
          const { card: stored, commandId } = await sendCommand(card.id, command);
          hearMeanwhile(way, stored);
          if (way.ahead === 1) putCard(way.really);
          tellDone(`${card.key} is in ${state?.name ?? "another state"}.`, async () =>
            putCard((await undoCommand(card.id, commandId)).card),
          );
        } catch (error) {
          way.refused = true;
          putCard(way.really);
          setStopped({ cardId: card.id, to, verb, problem: problemOf(error), given });
        }
      });
      way.ahead -= 1;
      if (way.ahead === 0) moving.delete(card.id);
      return !way.refused;
    },
    [workflowOf, putCard, moving],
  );

  /** Says of a card that the work in its state is done, or takes that back. */
  const markReady = useCallback(
    (card: Card, on: boolean) =>
      send({
        card,
        shown: { readySince: on ? Date.now() : null },
        command: { kind: "ready", on },
        done: `${card.key} ${on ? "is ready for its next step" : "is worked on again"}.`,
      }),
    [send],
  );

  return { stopped, setStopped, refuse, moveTo, markReady, workflowOf, send };
}

export type Moves = ReturnType<typeof useMoves>;
