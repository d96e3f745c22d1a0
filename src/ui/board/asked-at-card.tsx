"use client";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { CardActions, ChooseMove, StoppedMove } from "./card-actions";
import type { ColumnMoves } from "./use-columns";
import type { Moves } from "./use-moves";

/** What is asked beside a card: why a move stopped, which move is meant, what to do with it. */
export function AskedAtCard({
  view,
  byId,
  moves: { stopped, setStopped, moveTo, markReady, workflowOf },
  goes: { choosing, setChoosing },
  actionsFor,
  onActionsDone,
  onOpen,
}: {
  view: BoardView;
  byId: ReadonlyMap<string, Card>;
  moves: Moves;
  goes: ColumnMoves;
  actionsFor: string | null;
  onActionsDone: () => void;
  onOpen: (card: Card) => void;
}) {
  const stoppedCard = stopped && byId.get(stopped.cardId);
  const choosingCard = choosing && byId.get(choosing.cardId);
  const actionCard = actionsFor ? byId.get(actionsFor) : undefined;
  const actionWorkflow = actionCard && workflowOf(actionCard);
  return (
    <>
      {stoppedCard && (
        <StoppedMove
          stopped={stopped}
          names={view}
          onClose={() => setStopped(null)}
          onAnswer={(answers) => void moveTo(stoppedCard, stopped.to, stopped.verb, answers)}
        />
      )}
      {choosingCard && (
        <ChooseMove
          choosing={choosing}
          onClose={() => setChoosing(null)}
          onChoose={({ to, verb }) => {
            setChoosing(null);
            void moveTo(choosingCard, to, verb);
          }}
        />
      )}
      {actionCard && actionWorkflow && (
        <CardActions
          card={actionCard}
          workflow={actionWorkflow}
          onClose={onActionsDone}
          onOpen={() => {
            onActionsDone();
            onOpen(actionCard);
          }}
          onMove={(to, verb) => {
            onActionsDone();
            void moveTo(actionCard, to, verb);
          }}
          onReady={(on) => {
            onActionsDone();
            void markReady(actionCard, on);
          }}
        />
      )}
    </>
  );
}
