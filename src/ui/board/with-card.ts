import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import type { Card } from "@/core/board/card";
import { compareRanks } from "@/core/item/rank";
import type { BoardView } from "@/core/board/board-view";

/**
 * The cards with one put in its place: newer wins, what does not belong on the board is left out.
 */
export function withCard(board: BoardView, card: Card): Card[] {
  const known = board.cards.find((c) => c.id === card.id);
  if (known && known.version > card.version) return board.cards;
  const rest = board.cards.filter((c) => c.id !== card.id);
  const shown =
    board.board.columnsBy === "state"
      ? board.columns.some((c) => c.stateIds.includes(card.stateId)) ||
        inBay(board, card) ||
        uncoveredStates(board).some((s) => s.id === card.stateId)
      : card.stateKind !== "finished" && (known !== undefined || !board.board.scoped);
  if (card.withdrawn || !shown) return rest;
  return [...rest, card].sort((a, b) => compareRanks(a.rank, b.rank));
}

/**
 * Whether a card stands in the bay beside the board: the backlog of a workflow that it shows, or
 * not placed yet on a free board.
 */
export function inBay(board: BoardView, card: Card): boolean {
  if (board.board.columnsBy === "free") return board.board.places[card.id] === undefined;
  if (board.board.columnsBy !== "state") return false;
  if (card.stateKind !== "unstarted") return false;
  return followedWorkflows(board).some((w) => w.states.some((s) => s.id === card.stateId));
}

/** The board with the cards of all that has finished, so that nothing of it is a mere number. */
export function withFinished(board: BoardView, finished: readonly Card[]): BoardView {
  const known = new Set(board.cards.map((c) => c.id));
  const cards = [...board.cards, ...finished.filter((c) => !known.has(c.id))];
  return {
    ...board,
    cards: cards.sort((a, b) => compareRanks(a.rank, b.rank)),
    finishedRest: [],
  };
}

/** A card as this page heard of it, and when. */
export interface Heard {
  card: Card;
  at: number;
}

/**
 * A board that was read, with what was heard since it was asked for: the answer may be older than
 * that, and must not put a card back to where it was.
 * @param askedAt when it was asked for
 */
export function caughtUp(read: BoardView, heard: Iterable<Heard>, askedAt: number): BoardView {
  let board = read;
  for (const { card, at } of heard)
    if (at >= askedAt) board = { ...board, cards: withCard(board, card) };
  return board;
}
