"use client";
import {
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DndContextProps,
  type DragEndEvent,
  type DragStartEvent,
} from "@dnd-kit/core";
import { useState } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import { leadsFrom } from "@/core/workflow/workflow";
import type { BoardParts, Stands } from "./use-board-parts";
import { useColumnOrder } from "./use-column-order";
import type { ColumnMoves } from "./use-columns";
import type { LaneDrops } from "./use-lane-drops";
import type { Moves } from "./use-moves";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 5;

/** Onto what something was dropped. */
interface DroppedOnto {
  columnId?: string;
  laneId?: string;
  /** No id: out of every sprint. */
  sprint?: { id: string | null; name: string };
}

/** The head of a column is dragged as well; its id says so. */
const HEAD = "head ";
const isHead = (id: string) => id.startsWith(HEAD);

/** The lowest card of a column, other than the one that comes. */
function lastIn(
  { onBoard }: BoardParts,
  column: Column,
  stands: Stands,
  coming: Card,
): Card | null {
  return onBoard.findLast((c) => c.id !== coming.id && stands(c, column)) ?? null;
}

/** What is carried by the pointer, and what putting it down does. */
export function useHand({
  view,
  parts,
  moves,
  goes,
  enter,
}: {
  view: BoardView;
  parts: BoardParts;
  moves: Moves;
  goes: ColumnMoves;
  enter: LaneDrops["enter"];
}) {
  const [inHand, setInHand] = useState<string | null>(null);
  const moveStage = useColumnOrder(view, parts.columns);
  const free = view.board.columnsBy === "free";

  const moveToBacklog = (card: Card) => {
    if (free) return void goes.place(card, null);
    const workflow = moves.workflowOf(card);
    const unstarted = workflow?.states.filter((s) => s.kind === "unstarted").map((s) => s.id);
    const back = workflow?.transitions.find(
      (t) => leadsFrom(t, card.stateId) && unstarted?.includes(t.to),
    );
    if (back) void moves.moveTo(card, back.to, back.verb);
  };
  const planInto = (card: Card, { id, name }: { id: string | null; name: string }) => {
    if (card.sprintId === id) return;
    void moves.send({
      card,
      shown: { sprintId: id },
      command: { kind: "edit", seenVersion: card.version, changes: { sprintId: id } },
      done: id === null ? `${card.key} is in no sprint now.` : `${card.key} is in ${name}.`,
    });
  };
  const onDragStart = ({ active }: DragStartEvent) => {
    moves.setStopped(null);
    const id = String(active.id);
    if (!isHead(id)) setInHand(id);
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    setInHand(null);
    const id = String(active.id);
    const onto = over?.data.current as DroppedOnto | undefined;
    if (isHead(id)) return void moveStage(id.slice(HEAD.length), onto?.columnId);
    const card = parts.byId.get(id);
    if (!card) return;
    const column = parts.columns.find((c) => c.id === onto?.columnId);
    const lane = parts.laneList.find((one) => one.id === onto?.laneId);
    if (column)
      void enter(card, lane, column, free ? lastIn(parts, column, goes.stands, card) : null);
    else if (onto?.sprint) planInto(card, onto.sprint);
    else if (over?.id === "backlog") moveToBacklog(card);
  };
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const dragging: DndContextProps = {
    sensors,
    collisionDetection: pointerWithin,
    onDragStart,
    onDragCancel: () => setInHand(null),
    onDragEnd,
  };
  return {
    inHand,
    moveToBacklog,
    moveStage: (columnId: string, onto: string) => void moveStage(columnId, onto),
    dragging,
  };
}
