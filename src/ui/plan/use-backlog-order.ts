"use client";
import type { DragEndEvent } from "@dnd-kit/core";
import type { KeyboardEvent } from "react";
import type { Card } from "@/core/board/card";
import { pullMove } from "@/core/plan/pull";
import type { Moves } from "@/ui/board/use-moves";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { Problem } from "@/ui/kit/request";
import type { Backlog } from "./use-backlog";

/** What can be done with a row of the backlog: a new place among the others, and pulling it. */
export function useBacklogOrder(
  { view, rows, more, putCard }: Backlog,
  moves: Moves,
  onOpen: (card: Card) => void,
) {
  const place = async (card: Card, below: string | null) => {
    try {
      const { card: stored, commandId } = await sendCommand(card.id, { kind: "place", below });
      putCard(stored);
      tellDone(`${card.key} has its new place.`, async () =>
        putCard((await undoCommand(card.id, commandId)).card),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  const step = (card: Card, by: -1 | 1) => {
    const at = rows.findIndex((c) => c.id === card.id);
    if (by === -1 && at > 0) void place(card, rows[at - 2]?.id ?? null);
    if (by === 1 && at < rows.length - 1) void place(card, rows[at + 1].id);
    if (by === 1 && at >= rows.length - 2) void more();
  };
  const pull = (card: Card) => {
    const workflow = moves.workflowOf(card);
    const move = workflow && pullMove(workflow, card.stateId, view.columns);
    if (move) return void moves.moveTo(card, move.to, move.verb);
    tellProblem(
      new Problem({
        status: 0,
        code: "no move",
        sentence: `No move leads from the backlog into the process for ${card.key}.`,
        help: "Add one to its workflow in Design.",
      }),
    );
  };
  const drop = ({ active, over }: DragEndEvent) => {
    const from = rows.findIndex((c) => c.id === active.id);
    const to = rows.findIndex((c) => c.id === over?.id);
    if (from < 0 || to < 0 || from === to) return;
    void place(rows[from], to < from ? (rows[to - 1]?.id ?? null) : rows[to].id);
  };
  const focusRow = (element: Element | null) => (element as HTMLElement | null)?.focus();
  const onKey = (event: KeyboardEvent<HTMLElement>, card: Card) => {
    const { key, altKey, target, currentTarget: row } = event;
    if (target !== row) return;
    const moving = altKey && view.rights.move;
    const acts: Record<string, (() => void) | false> = {
      Enter: () => onOpen(card),
      "]": view.rights.move && (() => pull(card)),
      ArrowUp: () => (moving ? step(card, -1) : focusRow(row.previousElementSibling)),
      ArrowDown: () => (moving ? step(card, 1) : focusRow(row.nextElementSibling)),
    };
    const act = acts[key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  return { place, step, pull, drop, onKey };
}

export type BacklogOrder = ReturnType<typeof useBacklogOrder>;
