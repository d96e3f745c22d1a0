"use client";
import type { DndContextProps } from "@dnd-kit/core";
import { useRouter } from "next/navigation";
import { useCallback, useMemo, useRef, useState, type ReactNode } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { Density } from "@/core/board/card-look";
import type { LaneCut } from "@/core/board/lane";
import { labelOf } from "@/core/condition/vocabulary";
import type { Column } from "@/core/board/column";
import type { Figures } from "@/core/flow/summary";
import { useFigures } from "@/ui/flow/use-figures";
import { Dragging } from "@/ui/kit/dragging";
import { KeysHelp } from "@/ui/kit/keys-help";
import { areByPeople } from "@/core/board/lanes-by";
import { usePanel } from "@/ui/kit/panel-context";
import type { LookHandle } from "@/ui/view/use-look";
import { CountedPanel } from "@/ui/view/counted-panel";
import { amountWords } from "@/ui/view/amount-words";
import { AskedAtCard } from "./asked-at-card";
import { BacklogBay } from "./backlog-bay";
import { BoardBulk } from "./board-bulk";
import { BoardCard } from "./board-card";
import { BoardGrid } from "./board-grid";
import { bayTitle, BoardTools, isWalked, walkPath } from "./board-tools";
import { CarriedCard } from "./carried-card";
import { SprintsBeside } from "./sprints-beside";
import { useIsAlone } from "./use-alone";
import { useBoard } from "./use-board";
import { useBoardAdding, type BoardAdding } from "./use-board-adding";
import { BOARD_KEYS } from "./use-board-keys";
import { useBoardParts, type BoardParts, type Shown } from "./use-board-parts";
import { useCardFacts } from "./use-card-facts";
import { CardHandsProvider, useCardActs, type CardActs } from "./use-card-acts";
import { useChosenCards } from "./use-chosen-cards";
import { useColumns } from "./use-columns";
import { useFinished } from "./use-finished";
import { useFolds } from "./use-folds";
import { useHands } from "./use-hands";
import { useMoves } from "./use-moves";

/** On a board with nothing in progress the backlog is where to begin. */
const beginsWithBay = ({ board, cards, membersOf }: BoardView): boolean =>
  board.columnsBy === "free" ||
  (membersOf === null &&
    !cards.some((c) => c.stateKind === "waiting" || c.stateKind === "working"));

/** The board in daily use. */
export function BoardScreen({
  initial,
  initialSummary,
  handle,
  shown,
}: {
  initial: BoardView;
  initialSummary: Figures;
  handle: LookHandle;
  /** What the look lets through, and in which lanes. */
  shown: Shown;
}) {
  const board = useBoard(initial, handle.look.sum);
  const { view, now, putCard } = board;
  const summary = useFigures(view.project.key, initialSummary);
  const { openItem, itemKey } = usePanel();
  const alone = useIsAlone();
  const moves = useMoves(view, putCard, board.moving);
  const goes = useColumns(view, moves, board.setPlace);
  const walk = useWalkWay(view);
  const acts = useCardActs(view.rights.edit);
  const [help, setHelp] = useState(false);
  const [creating, setCreating] = useState(false);
  const [bayOpen, setBayOpen] = useState(() => beginsWithBay(initial));
  const textField = useRef<HTMLInputElement>(null);
  const parts = useBoardParts(view, shown, goes.stands);
  const { byId } = parts;
  const adding = useBoardAdding({ handle, view, putCard, moves, goes });
  const folds = useFolds(handle, view.board.id);
  const finished = useFinished(board, parts, shown, goes.stands);
  const chosen = useChosenCards(parts);
  const facts = useCardFacts(handle, view, summary, now);
  const open = useCallback((card: Card) => openItem(card.key), [openItem]);
  const { hand, keys, lifted, targets } = useHands({
    handle,
    board,
    parts,
    cut: shown.cut,
    moves,
    goes,
    on: {
      open,
      choose: (card, run) => (run ? chosen.runTo : chosen.turn)(card),
      ...acts.keys,
      addBelow: (card) => addBelow(card, parts, adding),
      filter: () => textField.current?.focus(),
      help: () => setHelp(true),
      make: () => view.rights.add && setCreating(true),
      backlog: () => setBayOpen((o) => !o),
      walk,
    },
  });
  const words = amountWords(view.sum, handle.views.vocabulary);
  const kept = useKept(keys.focusId, hand.inHand, moves.stopped?.cardId, goes.choosing?.cardId);

  const renderCard = (card: Card, column: Column | null) => (
    <BoardCard
      key={card.id}
      {...cardLook({ view, parts, card, column, shown, acts, density: facts.density })}
      facts={facts}
      open={card.key === itemKey}
      picked={keys.picked?.cardId === card.id}
      changed={board.changed.has(card.id)}
      chosen={chosen.has(card)}
      focusable={keys.focusId === card.id}
      onOpen={open}
      onChoose={chosen.turn}
      onFocus={keys.onFocus}
      onKey={keys.onKey}
    />
  );
  return (
    <BoardHands acts={acts} dragging={hand.dragging}>
      <div className="flex h-full flex-col" style={{ zoom: alone?.size }}>
        <BoardTools
          view={view}
          parts={parts}
          handle={handle}
          textField={textField}
          bay={{ open: bayOpen, onOpenChange: setBayOpen }}
          creating={{ open: creating, onOpenChange: setCreating }}
          onCreated={putCard}
          folds={folds}
        />
        <div className="relative flex min-h-0 flex-1">
          <CountedPanel handle={handle} />
          {bayOpen && (
            <BoardBay view={view} parts={parts} adding={adding} renderCard={renderCard} />
          )}
          <BoardGrid
            view={view}
            parts={parts}
            inLanes={shown.cut.lanes.by.kind !== "none"}
            summary={summary}
            targets={targets}
            kept={kept}
            finished={finished}
            renderCard={renderCard}
            adding={adding}
            amountWords={words}
            folds={folds}
            onOrder={hand.moveStage}
            mine={areByPeople(shown.cut.lanes) ? handle.views.asker.personId : null}
            now={now}
          />
          <SprintsBeside view={view} />
          <BoardBulk handle={handle} view={view} chosen={chosen} words={words} />
        </div>
      </div>
      <CarriedCard card={hand.inHand ? lifted : undefined} />
      <AskedAtCard {...{ view, byId, moves, goes, acts, handle }} onOpen={open} />
      <BoardKeys open={help} onClose={() => setHelp(false)} says={keys.says} />
    </BoardHands>
  );
}

/** What the pointer does on a board: it carries cards, and presses parts of them. */
function BoardHands({
  acts,
  dragging,
  children,
}: {
  acts: CardActs;
  dragging: DndContextProps;
  children: ReactNode;
}) {
  return (
    <CardHandsProvider value={acts.hands}>
      <Dragging id="board" {...dragging}>
        {children}
      </Dragging>
    </CardHandsProvider>
  );
}

/** The way to walking a board; undefined where it is not walked. */
function useWalkWay(view: BoardView): (() => void) | undefined {
  const { push } = useRouter();
  return isWalked(view) ? () => push(walkPath(view)) : undefined;
}

/** What is beside the columns, where this kind of board has it. */
function BoardBay({
  view,
  parts,
  adding,
  renderCard,
}: {
  view: BoardView;
  parts: BoardParts;
  adding: BoardAdding;
  renderCard: (card: Card, column: null) => ReactNode;
}) {
  const title = bayTitle(view.board);
  return title === null ? null : (
    <BacklogBay
      title={title}
      cards={parts.backlogShown}
      total={parts.backlog.length}
      adding={adding}
    >
      {(card) => renderCard(card, null)}
    </BacklogBay>
  );
}

/** Opens the line at the foot of where a card stands. */
function addBelow(card: Card, { laneList, columnOf }: BoardParts, adding: BoardAdding): void {
  const lane = laneList.find(({ items }) => items.some(({ id }) => id === card.id)) ?? null;
  if (adding.may) adding.open(lane, columnOf(card), "foot");
}

const isSmall = (density: Density, usually: boolean): boolean =>
  density === "usual" ? usually : density === "small";

/** Whose an item is that travels in the rest, as its lane does not say it. */
const whoseWords = (card: Card, { members, vocabulary }: LaneCut): string | null =>
  card.assigneeId === null || members?.has(card.assigneeId)
    ? null
    : labelOf("assigneeId", card.assigneeId, vocabulary);

/** What is the same of a card whatever somebody does on the board. */
const cardLook = ({
  view,
  parts,
  card,
  column,
  shown: { cut, cardsTold },
  acts,
  density,
}: {
  view: BoardView;
  parts: BoardParts;
  card: Card;
  column: Column | null;
  shown: Shown;
  acts: CardActs;
  density: Density;
}) => ({
  card,
  compact: isSmall(density, parts.byStages && column?.part !== "working"),
  told: cardsTold[card.id],
  whose: cut.members === null ? null : whoseWords(card, cut),
  under: parts.under.has(card.id),
  around: view.around[card.id],
  // What stands on the board as cards of its own is not told once more.
  childrenToo:
    parts.childrenShown !== "as cards" ||
    (view.around[card.id]?.children ?? 0) > (parts.drawnUnder.get(card.id) ?? 0),
  childrenOpen: acts.withChildren.has(card.id),
  draggable: view.rights.move,
});

/** Cards that stay drawn where they are out of sight: something is going on with them. */
function useKept(...ids: (string | null | undefined)[]): ReadonlySet<string> {
  const key = ids.join();
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => new Set(ids.flatMap((id) => id ?? [])), [key]);
}

/** The keys of the board when they are asked for, and what a key just did for who does not see it. */
function BoardKeys({ says, ...sheet }: { open: boolean; onClose: () => void; says: string }) {
  return (
    <>
      <KeysHelp {...sheet} title="Keys of the board" keys={BOARD_KEYS} />
      <p role="status" className="sr-only">
        {says}
      </p>
    </>
  );
}
