import type { BoardView } from "./board-view";
import { CARD_FIELDS, type Card } from "./card";

/**
 * A board as text: with thousands of cards it comes to the browser with its page much sooner as one
 * text, in which no field is named once for each card, than as all its values by themselves.
 */
export type PackedBoard = string & { readonly holds?: BoardView };

const FIELDS: readonly (keyof Card)[] = [...CARD_FIELDS, "key", "hasHowToTest", "withdrawn"];

/** @returns the board as text, its cards in their order */
export const packedBoard = ({ cards, ...board }: BoardView): PackedBoard =>
  JSON.stringify({ ...board, cards: cards.map((card) => FIELDS.map((field) => card[field])) });

/** @param text what `packedBoard` made */
export function unpackedBoard(text: PackedBoard): BoardView {
  const { cards, ...board } = JSON.parse(text) as Omit<BoardView, "cards"> & { cards: unknown[][] };
  return { ...board, cards: cards.map(unpackedCard) };
}

function unpackedCard(values: readonly unknown[]): Card {
  const card: Record<string, unknown> = {};
  for (let i = 0; i < FIELDS.length; i++) card[FIELDS[i]] = values[i];
  return card as unknown as Card;
}
