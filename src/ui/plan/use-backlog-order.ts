"use client";
import type { DragEndEvent } from "@dnd-kit/core";
import type { KeyboardEvent } from "react";
import type { Card } from "@/core/board/card";
import type { BacklogView } from "@/core/plan/backlog-view";
import { FIELD_OF_TIMEBOX } from "@/core/plan/membership";
import { pullMove } from "@/core/plan/pull";
import type { LargePiece } from "@/core/plan/reach-view";
import type { Moves } from "@/ui/board/use-moves";
import { sendCommand, undoCommand, type SentCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { Problem } from "@/ui/kit/request";
import type { Backlog } from "./use-backlog";

type EditedFields = Extract<SentCommand, { kind: "edit" }>["changes"];
type OnOpen = (card: Card) => void;

/** What a row is planned into; no id: out of it. */
export type Into =
  | { kind: "sprint" | "release"; id: string | null; name: string }
  | { kind: "piece"; key: string; name: string };

function plannedWords({ key }: Card, into: Into): string {
  if (into.kind === "piece") return `${key} is under “${into.name}”.`;
  return into.id === null ? `${key} is in no ${into.kind} now.` : `${key} is in ${into.name}.`;
}

/** What a row was dropped onto; null where it was another row. */
function intoOf(
  over: string,
  { sprints, releases }: BacklogView,
  pieces: readonly LargePiece[],
): Into | null {
  const [kind, id] = over.split(/:(.*)/s);
  const among = { sprint: sprints, release: releases, piece: pieces }[kind] ?? [];
  const found = among.find((one) => one.id === id);
  if (!found) return null;
  if ("key" in found) return { kind: "piece", key: found.key, name: found.title };
  return { kind: kind as "sprint" | "release", id: found.id, name: found.name };
}

/** What can be done with a row of the backlog: a new place among the others, and pulling it. */
export function useBacklogOrder(
  { view, rows, more, putCard, readAgain, lastRow }: Backlog,
  {
    moves,
    pieces,
    onOpen,
    onChoose,
  }: {
    moves: Moves;
    pieces: readonly LargePiece[];
    onOpen: OnOpen;
    /** Takes it along with others, or leaves it out. */
    onChoose: (card: Card) => void;
  },
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
  /** Changes fields of it, where they stand in the row. */
  const change = async (card: Card, changes: EditedFields, done: string) => {
    try {
      const edit = { kind: "edit", seenVersion: card.version, changes } as const;
      const { card: stored, commandId } = await sendCommand(card.id, edit);
      putCard(stored);
      tellDone(done, async () => putCard((await undoCommand(card.id, commandId)).card));
    } catch (error) {
      tellProblem(error);
    }
  };
  /** Plans it into a sprint or a release, out of them, or under a large piece. */
  const plan = async (card: Card, into: Into) => {
    try {
      const command: SentCommand =
        into.kind === "piece"
          ? { kind: "put under", parentKey: into.key }
          : {
              kind: "edit",
              seenVersion: card.version,
              changes: { [FIELD_OF_TIMEBOX[into.kind]]: into.id },
            };
      const { card: stored, commandId } = await sendCommand(card.id, command);
      putCard(stored);
      readAgain();
      tellDone(plannedWords(card, into), async () => {
        putCard((await undoCommand(card.id, commandId)).card);
        readAgain();
      });
    } catch (error) {
      tellProblem(error);
    }
  };
  /** Behind all others. */
  const toEnd = async (card: Card) => {
    const last = await lastRow();
    if (last && last !== card.id) void place(card, last);
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
    const dragged = rows.find((c) => c.id === active.id);
    const into = over && intoOf(String(over.id), view, pieces);
    if (dragged && into) return void plan(dragged, into);
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
      x: view.rights.edit && (() => onChoose(card)),
      ArrowUp: () => (moving ? step(card, -1) : focusRow(row.previousElementSibling)),
      ArrowDown: () => (moving ? step(card, 1) : focusRow(row.nextElementSibling)),
    };
    const act = acts[key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  return { place, change, plan, toEnd, step, pull, drop, onKey };
}

export type BacklogOrder = ReturnType<typeof useBacklogOrder>;
