"use client";
import { DndContext, DragOverlay, PointerSensor, pointerWithin, useSensor, useSensors, type DragEndEvent, type DragStartEvent } from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { leadsFrom } from "@/core/workflow/workflow";
import type { Card } from "@/core/board/card";
import { stagesOf, type Column } from "@/core/board/column";
import { lanes } from "@/core/board/lane";
import { expectationKept } from "@/core/flow/expectation";
import { daysTouched } from "@/core/calendar/zone";
import { NewItem } from "@/ui/item/new-item";
import { KeysHelp } from "@/ui/kit/keys-help";
import { usePanel } from "@/ui/kit/panel-context";
import { request } from "@/ui/kit/request";
import { BacklogBay } from "./backlog-bay";
import { BoardCard, type CardFacts } from "./board-card";
import { BoardHeads, columnWidths, firstParts } from "./board-heads";
import { CardActions, StoppedMove } from "./card-actions";
import { matches, NO_FILTER } from "./filter";
import { FilterLine } from "./filter-line";
import { LaneRow } from "./lane-row";
import type { BoardSummary, BoardView } from "./types";
import { isBacklog, useBoard } from "./use-board";
import { BOARD_KEYS, useBoardKeys } from "./use-board-keys";
import { useMoves } from "./use-moves";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 5;

/** The board in daily use. */
export function BoardScreen({ initial, initialSummary }: { initial: BoardView; initialSummary: BoardSummary }) {
  const { view, now, putCard, changed, moving } = useBoard(initial);
  const { data: summary } = useQuery({
    queryKey: ["summary", view.project.key],
    queryFn: () => request<BoardSummary>(`/api/projects/${view.project.key}/summary`),
    initialData: initialSummary,
  });
  const { openItem, openBehind, itemKey } = usePanel();
  const { stopped, setStopped, moveInto, moveTo, moveIntoColumn, workflowOf } = useMoves(view, putCard, moving);
  const [filter, setFilter] = useState(NO_FILTER);
  const [inHand, setInHand] = useState<string | null>(null);
  const [actionsFor, setActionsFor] = useState<string | null>(null);
  const [help, setHelp] = useState(false);
  const [creating, setCreating] = useState(false);
  // On a board with nothing in progress the backlog is where to begin.
  const [backlogOpen, setBacklogOpen] = useState(() => !initial.cards.some((c) => c.stateKind === "waiting" || c.stateKind === "working"));
  const textField = useRef<HTMLInputElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }));

  const columns = useMemo(() => stagesOf(view.columns).flatMap((s) => s.columns), [view.columns]);
  const firsts = useMemo(() => firstParts(view.columns), [view.columns]);
  const onBoard = useMemo(() => view.cards.filter((c) => !isBacklog(view, c)), [view]);
  const backlog = useMemo(() => view.cards.filter((c) => isBacklog(view, c)), [view]);
  const shown = useMemo(() => onBoard.filter((c) => matches(c, filter)), [onBoard, filter]);
  const laneList = useMemo(() => {
    const made = lanes(shown, filter.lanes, view.people);
    // An empty board still shows its places.
    return made.some((l) => !l.expedite) ? made : [...made, { id: "everything", name: "Everything else", expedite: false, items: [] }];
  }, [shown, filter.lanes, view.people]);
  const counts = useMemo(() => {
    const n: Record<string, number> = {};
    for (const column of columns) n[column.id] = onBoard.filter((c) => column.stateIds.includes(c.stateId)).length;
    return n;
  }, [columns, onBoard]);
  const byId = useMemo(() => new Map(view.cards.map((c) => [c.id, c])), [view.cards]);
  const facts = useMemo<CardFacts>(
    () => ({
      zone: view.project.zone,
      now,
      percentiles: summary.percentiles,
      expectationDays: summary.pulse.expectation.days,
      nameOf: new Map(view.people.map((p) => [p.id, p.name])),
      typeName: new Map(view.types.map((t) => [t.id, t.name])),
    }),
    [view, now, summary],
  );

  const open = useCallback((card: Card) => openItem(card.key), [openItem]);
  const moveToBacklog = (card: Card) => {
    const workflow = workflowOf(card);
    const back = workflow?.transitions.find((t) => leadsFrom(t, card.stateId) && workflow.states.find((s) => s.id === t.to)?.kind === "unstarted");
    if (back) void moveTo(card, back.to, back.verb);
  };
  const keys = useBoardKeys({
    columns,
    laneList,
    byId,
    mayMove: view.rights.move,
    moveIntoColumn,
    moveInto,
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
    if (liftedCard) for (const column of columns) states[column.id] = column.stateIds.includes(liftedCard.stateId) || moveInto(liftedCard, column) ? "allowed" : "closed";
    if (keys.picked) states.over = keys.picked.columnId;
    return states;
  }, [liftedCard, columns, moveInto, keys.picked]);

  const endDrag = ({ active, over }: DragEndEvent) => {
    setInHand(null);
    const card = byId.get(String(active.id));
    if (!card || !over) return;
    const column = columns.find((c) => c.id === (over.data.current as { columnId?: string } | undefined)?.columnId);
    if (column) moveIntoColumn(card, column);
    else if (over.id === "backlog") moveToBacklog(card);
  };
  const renderCard = (card: Card, column: Column | null) => (
    <BoardCard
      key={card.id}
      card={card}
      compact={column?.part !== "working"}
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
  const finished = onBoard.filter((c) => c.stateKind === "finished");
  const kept = expectationKept(finished.map((c) => daysTouched(c.clock, view.project.zone, now)), summary.pulse.expectation);
  const finishedSummary = (
    <button type="button" className="mb-1.5 block px-1 text-left leading-tight hover:underline" onClick={() => openBehind({ title: "Finished in the last 14 days", ids: finished.map((c) => c.id) })}>
      <b className="font-display text-[22px] text-done">{finished.length}</b> <span className="font-semibold text-done">finished</span>
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
        setInHand(String(active.id));
      }}
      onDragCancel={() => setInHand(null)}
      onDragEnd={endDrag}
    >
      <div className="flex h-full flex-col" style={{ ["--board-columns" as string]: columnWidths(view.columns) }}>
        <div className="flex shrink-0 items-center gap-4 px-4 py-2.5">
          <h1 className="whitespace-nowrap text-[18px]">
            {view.project.name}, {view.board.name.toLowerCase()}
          </h1>
          <FilterLine filter={filter} types={view.types.filter((t) => t.level >= 1)} people={view.people} shown={shown.length} total={onBoard.length} textField={textField} onChange={setFilter} />
          <span className="flex-1" />
          <button type="button" className="button" aria-pressed={backlogOpen} onClick={() => setBacklogOpen((o) => !o)}>
            Backlog <span className="text-ink-soft">{backlog.length}</span>
          </button>
          {view.rights.edit && <NewItem projectKey={view.project.key} types={view.types} ownFields={view.ownFields} people={view.people} open={creating} onOpenChange={setCreating} onCreated={putCard} />}
        </div>
        <div className="flex min-h-0 flex-1">
          {backlogOpen && (
            <BacklogBay cards={backlog.filter((c) => matches(c, filter))} total={backlog.length}>
              {(card) => renderCard(card, null)}
            </BacklogBay>
          )}
          <div className="min-w-0 flex-1 overflow-auto px-3">
            <div className="flex min-h-full min-w-fit flex-col">
              <BoardHeads columns={view.columns} counts={counts} ladder={summary.ladder} onOpen={(column) => openBehind({ title: `${column.stage}, ${column.name}`, ids: onBoard.filter((c) => column.stateIds.includes(c.stateId)).map((c) => c.id) })} />
              {laneList.map((lane, i) => (
                <LaneRow key={lane.id} lane={lane} columns={columns} firsts={firsts} target={target} onlyLane={filter.lanes === "none"} renderCard={renderCard} finishedSummary={i === mainLane ? finishedSummary : null} onMore={(cards) => openBehind({ title: "Finished in the last 14 days", ids: cards.map((c) => c.id) })} fill={i === laneList.length - 1} />
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
          onAnswer={(answers) => void moveTo(byId.get(stopped.cardId)!, stopped.to, stopped.verb, answers)}
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
      <KeysHelp open={help} onClose={() => setHelp(false)} title="Keys of the board" keys={BOARD_KEYS} />
      <p role="status" className="sr-only">
        {keys.says}
      </p>
    </DndContext>
  );
}

