"use client";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { AddUnder, addsTo } from "@/ui/adding/add-under";
import { useKnownTypes } from "@/ui/kit/type-glyph";
import type { LookHandle } from "@/ui/view/use-look";
import { Beside } from "@/ui/kit/beside";
import { cardAt } from "./at-card";
import { CardActions } from "./card-actions";
import { ChooseMove } from "./choose-move";
import { StoppedMove } from "./stopped-move";
import type { CardActs } from "./use-card-acts";
import type { ColumnMoves } from "./use-columns";
import type { Moves } from "./use-moves";

/** What is asked beside a card: why a move stopped, which move is meant, what to do with it. */
export function AskedAtCard({
  view,
  byId,
  moves: { stopped, setStopped, moveTo, markReady, workflowOf, send },
  goes: { choosing, setChoosing },
  acts,
  handle,
  onOpen,
}: {
  view: BoardView;
  byId: ReadonlyMap<string, Card>;
  moves: Moves;
  goes: ColumnMoves;
  acts: CardActs;
  handle: LookHandle;
  onOpen: (card: Card) => void;
}) {
  const stoppedCard = stopped && byId.get(stopped.cardId);
  const choosingCard = choosing && byId.get(choosing.cardId);
  const types = useKnownTypes();
  const { at, leave } = acts;
  const atCard = at ? byId.get(at.cardId) : undefined;
  const workflow = atCard && workflowOf(atCard);
  const adds = atCard && view.rights.add && addsTo(atCard, types).length > 0;
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
      {atCard && at?.kind === "add" && adds && (
        <Beside at={cardAt(atCard.id)} label={`Add to ${atCard.key}`} onClose={leave}>
          <AddUnder handle={handle} card={atCard} onLeave={leave} />
        </Beside>
      )}
      {atCard && workflow && at?.kind === "actions" && (
        <CardActions
          view={view}
          card={atCard}
          workflow={workflow}
          field={at.field}
          send={send}
          onAdd={adds ? () => acts.add(atCard) : null}
          onClose={leave}
          onOpen={() => {
            leave();
            onOpen(atCard);
          }}
          onMove={(to, verb) => {
            leave();
            void moveTo(atCard, to, verb);
          }}
          onReady={(on) => {
            leave();
            void markReady(atCard, on);
          }}
        />
      )}
    </>
  );
}
