"use client";
import type { DragEndEvent } from "@dnd-kit/core";
import type { KeyboardEvent } from "react";
import type { Card } from "@/core/board/card";
import type { BacklogSection } from "@/core/plan/backlog-sections";
import type { BacklogView } from "@/core/plan/backlog-view";
import { FIELD_OF_TIMEBOX } from "@/core/plan/membership";
import { moveInto, pullMove } from "@/core/plan/pull";
import type { LargePiece } from "@/core/plan/reach-view";
import type { Moves } from "@/ui/board/use-moves";
import { sendCommand, undoCommand, type SentCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { Problem } from "@/ui/kit/request";
import { focusBeside, focusCell, focusFirstCell } from "./backlog-focus";
import type { Backlog } from "./use-backlog";

type OnOpen = (card: Card) => void;

/** What a row is planned into; no id: out of it. */
export type Into =
  | { kind: "sprint" | "release"; id: string | null; name: string }
  | { kind: "person"; id: string | null; name: string }
  | { kind: "piece"; key: string | null; name: string };

function plannedWords({ key }: Card, into: Into): string {
  if (into.kind === "piece")
    return into.key === null ? `${key} is on its own.` : `${key} is under “${into.name}”.`;
  if (into.kind === "person")
    return into.id === null ? `Nobody has ${key} now.` : `${into.name} has ${key}.`;
  return into.id === null ? `${key} is in no ${into.kind} now.` : `${key} is in ${into.name}.`;
}

/** What a row was dropped onto; null where it was another row, or a part of the backlog. */
function intoOf(
  over: string,
  { sprints, releases, people }: BacklogView,
  pieces: readonly LargePiece[],
): Into | null {
  const [kind, id] = over.split(/:(.*)/s);
  const among = { sprint: sprints, release: releases, piece: pieces, person: people }[kind] ?? [];
  const found = among.find((one) => one.id === id);
  if (!found) return null;
  if ("key" in found) return { kind: "piece", key: found.key, name: found.title };
  return { kind: kind as "sprint" | "release" | "person", id: found.id, name: found.name };
}

/** The command that plans an item into something. */
function planCommand(card: Card, into: Into): SentCommand {
  if (into.kind === "piece") return { kind: "put under", parentKey: into.key };
  const field = into.kind === "person" ? "assigneeId" : FIELD_OF_TIMEBOX[into.kind];
  return { kind: "edit", seenVersion: card.version, changes: { [field]: into.id } };
}

const noMove = (card: Card, where: string) =>
  new Problem({
    status: 0,
    code: "no move",
    sentence: `No move leads ${where} for ${card.key}.`,
    help: "Add one to its workflow in Design.",
  });

/** What is sent to change where a row stands and what it is planned into. */
function commandsOf({ putCard, readAgain }: Pick<Backlog, "putCard" | "readAgain">) {
  /** Directly behind another row, or before one. */
  const place = async (card: Card, at: { below: string } | { above: string }) => {
    const command: SentCommand = { kind: "place", below: null, ...at };
    try {
      const { card: stored, commandId } = await sendCommand(card.id, command);
      putCard(stored);
      tellDone(`${card.key} has its new place.`, async () =>
        putCard((await undoCommand(card.id, commandId)).card),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  /**
   * Plans it into a sprint or a release, gives it to somebody, puts it under a large piece, or takes
   * it out of these.
   * @returns whether it was done
   */
  const plan = async (card: Card, into: Into): Promise<boolean> => {
    try {
      const { card: stored, commandId } = await sendCommand(card.id, planCommand(card, into));
      putCard(stored);
      void readAgain();
      tellDone(plannedWords(card, into), async () => {
        putCard((await undoCommand(card.id, commandId)).card);
        void readAgain();
      });
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    }
  };
  return { place, plan };
}

/** What can be done with a row of the backlog: a new place among the others, and pulling it. */
export function useBacklogOrder(
  { view, sections, rows, more, putCard, readAgain, lastRow }: Backlog,
  {
    moves,
    pieces,
    follows,
    onOpen,
    onChoose,
  }: {
    moves: Moves;
    pieces: readonly LargePiece[];
    /** Whether an item is open beside the rows: the one that has the focus is shown there then. */
    follows: boolean;
    onOpen: OnOpen;
    /** Takes it along with others, or leaves it out. */
    onChoose: (card: Card) => void;
  },
) {
  const sectionAt = (id: string) =>
    sections.findIndex(({ cards }) => cards.some((card) => card.id === id));
  const { place, plan } = commandsOf({ putCard, readAgain });
  /** Takes it into a part of the backlog: by a move, or into a sprint. @returns whether it was done */
  const enter = async (card: Card, { name, holds }: BacklogSection): Promise<boolean> => {
    if (holds.kind === "all") return true;
    if (holds.kind === "sprint") return plan(card, { kind: "sprint", id: holds.sprintId, name });
    if (holds.kind === "no sprint") return plan(card, { kind: "sprint", id: null, name });
    const workflow = moves.workflowOf(card);
    const move = workflow && moveInto(workflow, card.stateId, holds.stateIds);
    if (!move) {
      tellProblem(noMove(card, `into ${name}`));
      return false;
    }
    const moved = await moves.moveTo(card, move.to, move.verb);
    // What stands at the heads of the parts is the server's to say.
    if (moved) void readAgain();
    return moved;
  };
  /** Behind all others of its part. */
  const toEnd = async (card: Card) => {
    const last = await lastRow(sections[sectionAt(card.id)].section.id);
    if (last && last !== card.id) void place(card, { below: last });
  };
  /** Before all others of its part. */
  const toTop = (card: Card) => {
    const [top] = sections[sectionAt(card.id)].cards;
    if (top.id !== card.id) void place(card, { above: top.id });
  };
  /** One place up or down; over the line into the next part where it is the first or the last. */
  const step = (card: Card, by: -1 | 1) => {
    const here = sectionAt(card.id);
    const { section, cards } = sections[here];
    const at = cards.findIndex((c) => c.id === card.id);
    if (by === 1 && at >= cards.length - 2) void more(section.id);
    const beside = sections[here + by];
    if (at + by >= 0 && at + by < cards.length)
      void place(card, by === 1 ? { below: cards[at + 1].id } : { above: cards[at - 1].id });
    else if (beside) void enter(card, beside.section);
  };
  const pull = (card: Card) => {
    const workflow = moves.workflowOf(card);
    const move = workflow && pullMove(workflow, card.stateId, view.columns);
    if (move) return void moves.moveTo(card, move.to, move.verb);
    tellProblem(noMove(card, "from the backlog into the process"));
  };
  /** Puts it where it was dropped: to the row it was dropped on, in the part where that stands. */
  const drop = async ({ active, over }: DragEndEvent) => {
    const dragged = rows.find((c) => c.id === active.id);
    if (!dragged || !over || over.id === active.id) return;
    const onto = String(over.id);
    const into = intoOf(onto, view, pieces);
    if (into) return void plan(dragged, into);
    const head = sections.find(({ section }) => onto === `section:${section.id}`);
    const there = head ?? sections[sectionAt(onto)];
    if (!there) return;
    const crosses = there !== sections[sectionAt(dragged.id)];
    if (crosses && !(await enter(dragged, there.section))) return;
    if (head) return;
    const { cards } = there;
    const to = cards.findIndex((c) => c.id === onto);
    const from = cards.findIndex((c) => c.id === dragged.id);
    void place(dragged, crosses || to < from ? { above: onto } : { below: onto });
  };
  const goBeside = (row: HTMLElement, by: -1 | 1) => {
    const key = focusBeside(row, by);
    const card = follows && rows.find((one) => one.key === key);
    if (card) onOpen(card);
  };
  const onKey = (event: KeyboardEvent<HTMLElement>, card: Card) => {
    const { key, altKey, currentTarget: row } = event;
    if (event.target !== row) return void (focusCell(event) && event.preventDefault());
    const moving = altKey && view.rights.move;
    const acts: Record<string, (() => void) | false> = {
      Enter: () => onOpen(card),
      "]": view.rights.move && (() => pull(card)),
      x: view.rights.edit && (() => onChoose(card)),
      ArrowUp: () => (moving ? step(card, -1) : goBeside(row, -1)),
      ArrowDown: () => (moving ? step(card, 1) : goBeside(row, 1)),
      ArrowRight: () => focusFirstCell(row),
      Home: moving && (() => toTop(card)),
      End: moving && (() => void toEnd(card)),
    };
    const act = acts[key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  return { plan, toTop, toEnd, step, pull, drop, onKey };
}

export type BacklogOrder = ReturnType<typeof useBacklogOrder>;
