import type { Card } from "@/core/board/card";
import { compareRanks } from "@/core/item/rank";
import { isInSection, type BacklogSection } from "./backlog-sections";
import type { BacklogRows } from "./backlog-view";

/** Rows and the page behind them as one. What stands in both stands once. */
export function withPage(rows: BacklogRows, page: BacklogRows): BacklogRows {
  const known = new Set(rows.cards.map(({ id }) => id));
  return {
    cards: [...rows.cards, ...page.cards.filter(({ id }) => !known.has(id))],
    around: { ...rows.around, ...page.around },
    values: { ...rows.values, ...page.values },
    parents: { ...rows.parents, ...page.parents },
    next: page.next,
    matching: page.matching,
  };
}

/**
 * The rows of a part with an item put in its place, or taken out where it does not belong there any
 * more. What stands behind the rows that were read is not put among them.
 */
export function withCard(rows: BacklogRows, section: BacklogSection, card: Card): BacklogRows {
  const known = rows.cards.find(({ id }) => id === card.id);
  if (known && known.version > card.version) return rows;
  const rest = rows.cards.filter(({ id }) => id !== card.id);
  const last = rest.at(-1);
  const read = rows.next === null || (last !== undefined && compareRanks(card.rank, last.rank) < 0);
  const belongs = read && isInSection(section, card);
  if (!belongs && !known) return rows;
  const cards = belongs ? [...rest, card] : rest;
  const matching =
    rows.matching === null ? null : rows.matching + Number(belongs) - Number(known !== undefined);
  return { ...rows, cards: cards.sort((a, b) => compareRanks(a.rank, b.rank)), matching };
}
