"use client";
import { Button } from "@/ui/kit/button";
import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragStartEvent,
} from "@dnd-kit/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { leadsFrom } from "@/core/workflow/workflow";
import type { Card } from "@/core/board/card";
import { columnWords, stagesOf, type Column } from "@/core/board/column";
import { compareRanks } from "@/core/item/rank";
import { lanes } from "@/core/board/lane";
import { expectationKept } from "@/core/flow/expectation";
import { counted } from "@/core/formats/counted";
import { countedClock } from "@/core/item/start-finish";
import { daysTouched } from "@/core/calendar/zone";
import { NewItem } from "@/ui/item/new-item";
import { KeysHelp } from "@/ui/kit/keys-help";
import { usePanel } from "@/ui/kit/panel-context";
import { tellProblem } from "@/ui/kit/notice";
import { BacklogBay } from "./backlog-bay";
import { BoardCard, type CardFacts } from "./board-card";
import { BoardHeads, columnWidths, firstParts } from "./board-heads";
import { CardActions, ChooseMove, StoppedMove } from "./card-actions";
import { matches, NO_FILTER } from "./filter";
import { FilterLine } from "./filter-line";
import { LaneRow } from "./lane-row";
import { BoardSwitch } from "./board-switch";
import { boardKey, useBoard } from "./use-board";
import { inBay } from "./with-card";
import { useColumns } from "./use-columns";
import { BOARD_KEYS, useBoardKeys } from "./use-board-keys";
import { useMoves } from "./use-moves";
import type { BoardView } from "@/core/board/board-view";
import type { ProjectSummary } from "@/core/flow/summary";
import { boardContract } from "@/core/board/contract";
import { flowContract } from "@/core/flow/contract";
import { queryOf, ask, keyOf } from "@/ui/kit/request";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 5;

/** How many items a column counts that this person may not see. */
const unseenIn = (view: BoardView, column: Column): number =>
  column.stateIds.reduce((sum, id) => sum + (view.hidden[id] ?? 0), 0);

/** The board in daily use. */
export function BoardScreen({
  initial,
  initialSummary,
}: {
  initial: BoardView;
  initialSummary: ProjectSummary;
}) {
  const { view, setPlace, now, putCard, changed, moving } = useBoard(initial);
  const { data: summary } = useQuery({
    ...queryOf(flowContract.summary, { params: { key: view.project.key } }),
    initialData: initialSummary,
  });
  const { openItem, openBehind, itemKey } = usePanel();
  const { stopped, setStopped, moveTo, workflowOf } = useMoves(view, putCard, moving);
  const { stands, canEnter, enter, place, choosing, setChoosing } = useColumns(
    view,
    { moveTo, workflowOf },
    putCard,
    setPlace,
  );
  const { columnsBy } = view.board;
  const client = useQueryClient();
  const [filter, setFilter] = useState(NO_FILTER);
  const [inHand, setInHand] = useState<string | null>(null);
  const [actionsFor, setActionsFor] = useState<string | null>(null);
  const [help, setHelp] = useState(false);
  const [creating, setCreating] = useState(false);
  // On a board with nothing in progress the backlog is where to begin.
  const [backlogOpen, setBacklogOpen] = useState(
    () =>
      initial.board.columnsBy === "free" ||
      !initial.cards.some((c) => c.stateKind === "waiting" || c.stateKind === "working"),
  );
  const textField = useRef<HTMLInputElement>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );

  const columns = useMemo(
    () => (columnsBy === "state" ? stagesOf(view.columns).flatMap((s) => s.columns) : view.columns),
    [view.columns, columnsBy],
  );
  const firsts = useMemo(
    () =>
      columnsBy === "state" ? firstParts(view.columns) : new Set(view.columns.map((c) => c.id)),
    [view.columns, columnsBy],
  );
  const [onBoard, astray] = useMemo(() => {
    const outside = view.cards.filter((c) => !inBay(view, c));
    const inColumn = (card: Card) => columns.some((column) => stands(card, column));
    return [sorted(outside.filter(inColumn), view.board), outside.filter((c) => !inColumn(c))];
  }, [view, columns, stands]);
  const backlog = useMemo(() => view.cards.filter((c) => inBay(view, c)), [view]);
  const shown = useMemo(() => onBoard.filter((c) => matches(c, filter)), [onBoard, filter]);
  const laneList = useMemo(() => {
    const made = lanes(shown, filter.lanes, view.people);
    // An empty board still shows its places.
    return made.some((l) => !l.expedite)
      ? made
      : [...made, { id: "everything", name: "Everything else", expedite: false, items: [] }];
  }, [shown, filter.lanes, view.people]);
  const counts = useMemo(() => {
    const n: Record<string, number> = {};
    for (const column of columns)
      n[column.id] = onBoard.filter((c) => stands(c, column)).length + unseenIn(view, column);
    return n;
  }, [columns, onBoard, stands, view]);
  const byId = useMemo(() => new Map(view.cards.map((c) => [c.id, c])), [view.cards]);
  const facts = useMemo<CardFacts>(
    () => ({
      zone: view.project.zone,
      now,
      percentiles: summary.percentiles,
      expectationDays: summary.pulse.expectation.days,
      nameOf: new Map(view.people.map((p) => [p.id, p.name])),
      typeName: new Map(view.types.map((t) => [t.id, t.name])),
      ownFields: view.ownFields,
      stateName:
        columnsBy === "state"
          ? null
          : new Map(view.workflows.flatMap((w) => w.states.map((s) => [s.id, s.name]))),
    }),
    [view, now, summary, columnsBy],
  );

  const open = useCallback((card: Card) => openItem(card.key), [openItem]);
  const moveToBacklog = (card: Card) => {
    if (columnsBy === "free") return void place(card, null);
    const workflow = workflowOf(card);
    const back = workflow?.transitions.find(
      (t) =>
        leadsFrom(t, card.stateId) &&
        workflow.states.find((s) => s.id === t.to)?.kind === "unstarted",
    );
    if (back) void moveTo(card, back.to, back.verb);
  };
  const keys = useBoardKeys({
    columns,
    laneList,
    byId,
    mayMove: view.rights.move,
    stands,
    canEnter,
    enter,
    moveToBacklog,
    openItem: open,
    openActions: (card) => setActionsFor(card.id),
    onFilter: () => textField.current?.focus(),
    onHelp: () => setHelp(true),
    onNew: () => view.rights.edit && setCreating(true),
    onBacklog: () => setBacklogOpen((o) => !o),
  });
  const lifted = inHand ?? keys.picked?.cardId ?? null;
  const liftedCard = lifted ? byId.get(lifted) : undefined;
  const target = useMemo(() => {
    const states: Record<string, "allowed" | "closed" | undefined> & { over?: string } = {};
    if (liftedCard)
      for (const column of columns)
        states[column.id] =
          stands(liftedCard, column) || canEnter(liftedCard, column) ? "allowed" : "closed";
    if (keys.picked) states.over = keys.picked.columnId;
    return states;
  }, [liftedCard, columns, stands, canEnter, keys.picked]);

  const endDrag = ({ active, over }: DragEndEvent) => {
    setInHand(null);
    if (String(active.id).startsWith("head "))
      return void moveStage(
        String(active.id).slice(5),
        (over?.data.current as { columnId?: string } | undefined)?.columnId,
      );
    const card = byId.get(String(active.id));
    if (!card || !over) return;
    const column = columns.find(
      (c) => c.id === (over.data.current as { columnId?: string } | undefined)?.columnId,
    );
    if (column)
      enter(card, column, columnsBy === "free" ? lastIn(onBoard, column, stands, card) : null);
    else if (over.id === "backlog") moveToBacklog(card);
  };
  /** Puts the columns of a stage before those of another, at once for everybody. */
  const moveStage = async (columnId: string, onto: string | undefined) => {
    const groups =
      columnsBy === "state" ? stagesOf(columns).map((s) => s.columns) : columns.map((c) => [c]);
    const [from, to] = [columnId, onto].map((id) =>
      groups.findIndex((g) => g.some((c) => c.id === id)),
    );
    if (from < 0 || to < 0 || from === to) return;
    const next = [...groups];
    next.splice(to, 0, ...next.splice(from, 1));
    const ordered = next.flat().map((c, position) => ({ ...c, position }));
    client.setQueryData<BoardView>(boardKey(view), (b) => b && { ...b, columns: ordered });
    try {
      await ask(boardContract.change, {
        params: { key: view.project.key },
        body: {
          kind: "order columns",
          boardId: view.board.id,
          columnIds: ordered.map((c) => c.id),
        },
      });
    } catch (error) {
      tellProblem(error);
      await client.invalidateQueries({
        queryKey: keyOf(boardContract.read, { params: { key: view.project.key } }),
      });
    }
  };
  const renderCard = (card: Card, column: Column | null) => (
    <BoardCard
      key={card.id}
      card={card}
      compact={columnsBy === "state" && column?.part !== "working"}
      facts={facts}
      open={card.key === itemKey}
      picked={keys.picked?.cardId === card.id}
      changed={changed.has(card.id)}
      focusable={keys.focusId === card.id}
      draggable={view.rights.move}
      onOpen={open}
      onFocus={keys.onFocus}
      onKey={keys.onKey}
    />
  );
  const finished = onBoard.filter((c) => c.finishedAt !== null);
  const delivered = finished.filter((c) => c.deliveredAt === c.finishedAt);
  const kept = expectationKept(
    delivered.map((c) => daysTouched(countedClock(c), view.project.zone, now)),
    summary.pulse.expectation,
  );
  const finishedSummary = (
    <button
      type="button"
      className="mb-1.5 block px-1 text-left leading-tight hover:underline"
      onClick={() =>
        openBehind({ title: "Finished in the last 14 days", ids: finished.map((c) => c.id) })
      }
    >
      <b className="font-display text-[22px] text-done">{finished.length}</b>{" "}
      <span className="font-semibold text-done">finished</span>
      <span className="block text-[12px] text-ink-soft">
        {kept.within} within {summary.pulse.expectation.days} days
      </span>
    </button>
  );
  const actionCard = actionsFor ? byId.get(actionsFor) : undefined;
  const mainLane = laneList.findIndex((l) => !l.expedite);

  return (
    <DndContext
      id="board"
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }: DragStartEvent) => {
        setStopped(null);
        if (!String(active.id).startsWith("head ")) setInHand(String(active.id));
      }}
      onDragCancel={() => setInHand(null)}
      onDragEnd={endDrag}
    >
      <div
        className="flex h-full flex-col"
        style={{
          ["--board-columns" as string]:
            columnsBy === "state"
              ? columnWidths(view.columns)
              : columns
                  .map((c) =>
                    counts[c.id] > 0 || columnsBy === "free"
                      ? "minmax(172px, 1fr)"
                      : "minmax(104px, 0.5fr)",
                  )
                  .join(" "),
        }}
      >
        <div className="flex shrink-0 items-center gap-4 px-4 py-2.5">
          <BoardSwitch view={view} />
          <FilterLine
            filter={filter}
            types={view.types.filter((t) => t.level >= 1)}
            people={view.people}
            shown={shown.length}
            total={onBoard.length}
            textField={textField}
            onChange={setFilter}
          />
          <span className="flex-1" />
          {astray.length > 0 && <InNoColumn cards={astray} view={view} onOpen={openBehind} />}
          {(columnsBy === "state" || columnsBy === "free") && (
            <Button aria-pressed={backlogOpen} onClick={() => setBacklogOpen((o) => !o)}>
              {columnsBy === "free" ? "Not placed yet" : "Backlog"}{" "}
              <span className="text-ink-soft">{backlog.length}</span>
            </Button>
          )}
          {view.rights.edit && (
            <NewItem
              projectKey={view.project.key}
              types={view.types}
              ownFields={view.ownFields}
              people={view.people}
              open={creating}
              onOpenChange={setCreating}
              onCreated={putCard}
            />
          )}
        </div>
        <div className="flex min-h-0 flex-1">
          {backlogOpen && (columnsBy === "state" || columnsBy === "free") && (
            <BacklogBay
              title={columnsBy === "free" ? "Not placed yet" : "Backlog"}
              cards={backlog.filter((c) => matches(c, filter))}
              total={backlog.length}
            >
              {(card) => renderCard(card, null)}
            </BacklogBay>
          )}
          <div className="min-w-0 flex-1 overflow-auto px-3">
            <div className="flex min-h-full min-w-fit flex-col">
              <BoardHeads
                columns={columns}
                byStages={columnsBy === "state"}
                mayOrder={view.rights.design && (columnsBy === "state" || columnsBy === "free")}
                counts={counts}
                ladder={summary.ladder}
                onOpen={(column) =>
                  openBehind({
                    title: columnWords(column),
                    ids: onBoard.filter((c) => stands(c, column)).map((c) => c.id),
                    unseen: unseenIn(view, column),
                  })
                }
              />
              {laneList.map((lane, i) => (
                <LaneRow
                  key={lane.id}
                  lane={lane}
                  columns={columns}
                  firsts={firsts}
                  target={target}
                  onlyLane={filter.lanes === "none"}
                  stands={stands}
                  renderCard={renderCard}
                  finishedSummary={i === mainLane && columnsBy === "state" ? finishedSummary : null}
                  onMore={(cards) =>
                    openBehind({
                      title: "Finished in the last 14 days",
                      ids: cards.map((c) => c.id),
                    })
                  }
                  fill={i === laneList.length - 1}
                />
              ))}
            </div>
          </div>
        </div>
      </div>
      <DragOverlay dropAnimation={{ duration: 140, easing: "ease-out" }}>
        {inHand && liftedCard && (
          <div className="card rotate-1 shadow-lg" data-compact="true">
            <span className="key">{liftedCard.key}</span>
            <p className="card-title">{liftedCard.title}</p>
          </div>
        )}
      </DragOverlay>
      {stopped && byId.has(stopped.cardId) && (
        <StoppedMove
          stopped={stopped}
          names={view}
          onClose={() => setStopped(null)}
          onAnswer={(answers) =>
            void moveTo(byId.get(stopped.cardId)!, stopped.to, stopped.verb, answers)
          }
        />
      )}
      {choosing && byId.has(choosing.cardId) && (
        <ChooseMove
          choosing={choosing}
          onClose={() => setChoosing(null)}
          onChoose={({ to, verb }) => {
            setChoosing(null);
            void moveTo(byId.get(choosing.cardId)!, to, verb);
          }}
        />
      )}
      {actionCard && workflowOf(actionCard) && (
        <CardActions
          card={actionCard}
          workflow={workflowOf(actionCard)!}
          onClose={() => setActionsFor(null)}
          onOpen={() => {
            setActionsFor(null);
            open(actionCard);
          }}
          onMove={(to, verb) => {
            setActionsFor(null);
            void moveTo(actionCard, to, verb);
          }}
        />
      )}
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

/** What the board is about and none of its columns shows: said, and opened by a click. */
function InNoColumn({
  cards,
  view,
  onOpen,
}: {
  cards: Card[];
  view: BoardView;
  onOpen: (behind: { title: string; ids: string[] }) => void;
}) {
  const states = view.workflows
    .flatMap((w) => w.states)
    .filter((s) => cards.some((c) => c.stateId === s.id));
  const title = `In no column of this board: ${states.map((s) => s.name).join(", ")}`;
  return (
    <button
      type="button"
      className="border-l-[3px] border-signal pl-2 text-left text-[13px] whitespace-nowrap text-signal-ink hover:underline"
      title={title}
      onClick={() => onOpen({ title, ids: cards.map((c) => c.id) })}
    >
      <b>{counted(cards.length, "item")}</b> in no column
    </button>
  );
}

/** On a free board cards stand by their place in it, everywhere else by their rank. */
function sorted(cards: Card[], { columnsBy, places }: BoardView["board"]): Card[] {
  return columnsBy === "free"
    ? [...cards].sort((a, b) => compareRanks(places[a.id].rank, places[b.id].rank))
    : cards;
}

/** The lowest card of a column, other than the one that comes. */
function lastIn(
  cards: readonly Card[],
  column: Column,
  stands: (card: Card, column: Column) => boolean,
  coming: Card,
): Card | null {
  return cards.findLast((c) => c.id !== coming.id && stands(c, column)) ?? null;
}
