import type { BoardChanges, BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { countedAgain, type Counting } from "@/core/board/finished";
import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import { amountOf } from "@/core/item/amount";
import { compareRanks } from "@/core/item/rank";

/** Whether a board draws a card that stands where this one does. */
function draws(board: BoardView, card: Card, known: boolean): boolean {
  if (card.withdrawn) return false;
  if (board.board.columnsBy !== "state")
    return card.stateKind !== "finished" && (known || !board.board.scoped);
  return (
    board.columns.some((c) => c.stateIds.includes(card.stateId)) ||
    inBay(board, card) ||
    uncoveredStates(board).some((s) => s.id === card.stateId)
  );
}

const byRank = (a: Card, b: Card) => compareRanks(a.rank, b.rank);

/** How the finished items of a board are counted. */
const counting = ({ project, now, sum, ownFields }: BoardView): Counting<Card> => ({
  zone: project.zone,
  now,
  amountOf: (card) => amountOf(sum, card, ownFields),
});

/**
 * The board with a card put in its place, counted where it has finished: newer wins, what does not
 * belong on the board is left out.
 */
export function withCard(board: BoardView, card: Card): BoardView {
  const known = board.cards.find((c) => c.id === card.id);
  if (known && known.version > card.version) return board;
  const rest = board.cards.filter((c) => c.id !== card.id);
  const drawn = draws(board, card, known !== undefined);
  const cards = drawn ? [...rest, card].sort(byRank) : rest;
  if (board.board.columnsBy !== "state") return { ...board, cards };
  const before = known?.stateKind === "finished" ? known : null;
  const after = drawn && card.stateKind === "finished" ? card : null;
  if (before === null && after === null) return { ...board, cards };
  return {
    ...board,
    cards,
    finished: countedAgain(board.finished, before, after, counting(board)),
  };
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
  return { ...board, cards: cards.sort(byRank), finishedWhole: true };
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
  for (const { card, at } of heard) if (at >= askedAt) board = withCard(board, card);
  return board;
}

/**
 * The board with what became of some items: cards that are newer here stay, those without an answer
 * stand there no more.
 * @param ids of all items that were asked after
 * @param kept those that may not be taken away, since they changed here meanwhile
 */
export function withChanges(
  board: BoardView,
  ids: readonly string[],
  { cards: told, around, hidden, limits, finished }: BoardChanges,
  kept: ReadonlySet<string>,
): BoardView {
  const asked = new Set(ids);
  const answered = new Map(told.map((card) => [card.id, card]));
  const known = new Map(board.cards.map((card) => [card.id, card]));
  const isNewer = ({ id, version }: Card) => (known.get(id)?.version ?? -1) <= version;
  const others = board.cards.filter(({ id }) => {
    if (!asked.has(id) || kept.has(id)) return true;
    const answer = answered.get(id);
    return answer !== undefined && !isNewer(answer);
  });
  const put = told.filter((card) => !kept.has(card.id) && isNewer(card));
  const cards = put.length === 0 ? others : [...others, ...put].sort(byRank);
  const before = Object.entries(board.around).filter(([id]) => !asked.has(id));
  return {
    ...board,
    cards,
    around: { ...Object.fromEntries(before), ...around },
    hidden,
    limits,
    finished: finished ?? board.finished,
  };
}
