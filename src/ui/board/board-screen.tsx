"use client";
import { DndContext } from "@dnd-kit/core";
import { useCallback, useRef, useState, type CSSProperties } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { ProjectSummary } from "@/core/flow/summary";
import { useSummary } from "@/ui/flow/use-summary";
import { KeysHelp } from "@/ui/kit/keys-help";
import { usePanel } from "@/ui/kit/panel-context";
import { AskedAtCard } from "./asked-at-card";
import { BacklogBay } from "./backlog-bay";
import { BoardCard } from "./board-card";
import { BoardGrid } from "./board-grid";
import { columnWidths, valueWidths } from "./board-heads";
import { bayTitle, BoardTools } from "./board-tools";
import { CarriedCard } from "./carried-card";
import { NO_FILTER } from "./filter";
import { useBoard } from "./use-board";
import { BOARD_KEYS, useBoardKeys } from "./use-board-keys";
import { useBoardParts } from "./use-board-parts";
import { useCardFacts } from "./use-card-facts";
import { useColumns } from "./use-columns";
import { useFinished } from "./use-finished";
import { useHand } from "./use-hand";
import { useMoves } from "./use-moves";
import { useTargets } from "./use-targets";

/** On a board with nothing in progress the backlog is where to begin. */
const beginsWithBay = ({ board, cards }: BoardView): boolean =>
  board.columnsBy === "free" ||
  !cards.some((c) => c.stateKind === "waiting" || c.stateKind === "working");

/** The board in daily use. */
export function BoardScreen({
  initial,
  initialSummary,
}: {
  initial: BoardView;
  initialSummary: ProjectSummary;
}) {
  const board = useBoard(initial);
  const { view, now, putCard } = board;
  const summary = useSummary(view.project.key, initialSummary);
  const { openItem, itemKey } = usePanel();
  const moves = useMoves(view, putCard, board.moving);
  const goes = useColumns(view, moves, putCard, board.setPlace);
  const [filter, setFilter] = useState(NO_FILTER);
  const [actionsFor, setActionsFor] = useState<string | null>(null);
  const [help, setHelp] = useState(false);
  const [creating, setCreating] = useState(false);
  const [bayOpen, setBayOpen] = useState(() => beginsWithBay(initial));
  const textField = useRef<HTMLInputElement>(null);

  const parts = useBoardParts(view, filter, goes.stands);
  const { columns, byId } = parts;
  const hand = useHand(view, parts, moves, goes);
  const finished = useFinished(board, parts, filter, goes.stands);
  const facts = useCardFacts(view, summary, now);
  const open = useCallback((card: Card) => openItem(card.key), [openItem]);
  const keys = useBoardKeys({
    columns,
    laneList: parts.laneList,
    byId,
    mayMove: view.rights.move,
    asShown: (card) => board.moving.get(card.id)?.shown ?? card,
    stands: goes.stands,
    canEnter: goes.canEnter,
    enter: goes.enter,
    moveToBacklog: hand.moveToBacklog,
    openItem: open,
    openActions: (card) => setActionsFor(card.id),
    onFilter: () => textField.current?.focus(),
    onHelp: () => setHelp(true),
    onNew: () => view.rights.edit && setCreating(true),
    onBacklog: () => setBayOpen((o) => !o),
  });
  const lifted = byId.get(hand.inHand ?? keys.picked?.cardId ?? "");
  const targets = useTargets(columns, lifted, keys.picked?.columnId, goes);
  const widths = parts.byStages ? columnWidths(view.columns) : valueWidths(view, parts.counts);

  const renderCard = (card: Card, column: Column | null) => (
    <BoardCard
      key={card.id}
      card={card}
      compact={parts.byStages && column?.part !== "working"}
      facts={facts}
      open={card.key === itemKey}
      picked={keys.picked?.cardId === card.id}
      changed={board.changed.has(card.id)}
      focusable={keys.focusId === card.id}
      draggable={view.rights.move}
      onOpen={open}
      onFocus={keys.onFocus}
      onKey={keys.onKey}
    />
  );
  const bay = bayTitle(view.board);
  return (
    <DndContext id="board" {...hand.dragging}>
      <div className="flex h-full flex-col" style={{ "--board-columns": widths } as CSSProperties}>
        <BoardTools
          view={view}
          parts={parts}
          filter={filter}
          textField={textField}
          onFilter={setFilter}
          bay={{ open: bayOpen, onOpenChange: setBayOpen }}
          creating={{ open: creating, onOpenChange: setCreating }}
          onCreated={putCard}
        />
        <div className="flex min-h-0 flex-1">
          {bayOpen && bay && (
            <BacklogBay title={bay} cards={parts.backlogShown} total={parts.backlog.length}>
              {(card) => renderCard(card, null)}
            </BacklogBay>
          )}
          <BoardGrid
            view={view}
            parts={parts}
            lanesBy={filter.lanes}
            summary={summary}
            targets={targets}
            stands={goes.stands}
            finished={finished}
            renderCard={renderCard}
            now={now}
          />
        </div>
      </div>
      <CarriedCard card={hand.inHand ? lifted : undefined} />
      <AskedAtCard
        view={view}
        byId={byId}
        moves={moves}
        goes={goes}
        actionsFor={actionsFor}
        onActionsDone={() => setActionsFor(null)}
        onOpen={open}
      />
      <KeysHelp
        open={help}
        onClose={() => setHelp(false)}
        title="Keys of the board"
        keys={BOARD_KEYS}
      />
      <p role="status" className="sr-only">
        {keys.says}
      </p>
    </DndContext>
  );
}
