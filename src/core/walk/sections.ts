import type { Column, ColumnPart } from "@/core/board/column";
import { columnWords } from "@/core/board/column";
import type { Card } from "@/core/board/card";
import { isInProgress } from "@/core/workflow/state";
import type { WalkOrder } from "./walk";

/** A stretch of a walk: a column, a person, or a story. */
export interface WalkSection {
  id: string;
  name: string;
  /** What happens in it, where it is a column. */
  part: ColumnPart | null;
  items: Card[];
}

/** What a walk goes through, with what it is called. */
export interface Walked {
  cards: readonly Card[];
  columns: readonly Column[];
  nameOf: (personId: string) => string;
  /** What an item is called that others stand under; null where that is not known. */
  parentName: (itemId: string) => string | null;
  /** How old an item is, in any unit. */
  ageOf: (card: Card) => number;
  /** What earlier walks left for later: it comes first. */
  left: readonly string[];
}

/** What is blocked comes first, then what is oldest; what is alike, by its key. */
const pressing =
  (ageOf: Walked["ageOf"]) =>
  (a: Card, b: Card): number =>
    Number(b.openBlockers.length > 0) - Number(a.openBlockers.length > 0) ||
    ageOf(b) - ageOf(a) ||
    (a.key < b.key ? -1 : 1);

type Named = Omit<WalkSection, "items"> & { holds: (card: Card) => boolean };

/** The state nearest the end comes first. */
const byColumn = ({ columns }: Walked): Named[] =>
  columns
    .filter(({ part }) => part !== "finished")
    .toReversed()
    .map((column) => ({
      id: column.id,
      name: columnWords(column),
      part: column.part,
      holds: (card) => column.stateIds.includes(card.stateId),
    }));

function byPerson(cards: readonly Card[], { nameOf }: Walked): Named[] {
  const ids = new Set(cards.map(({ assigneeId }) => assigneeId));
  const people = [...ids]
    .filter((id) => id !== null)
    .map((id) => ({ id, name: nameOf(id) }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
  const named = people.map(({ id, name }) => ({
    id,
    name,
    part: null,
    holds: (card: Card) => card.assigneeId === id,
  }));
  const nobody = { id: "nobody", name: "Nobody yet", part: null };
  return [...named, { ...nobody, holds: ({ assigneeId }) => assigneeId === null }];
}

function byStory(cards: readonly Card[], { parentName }: Walked): Named[] {
  const names = new Map(
    cards.flatMap(({ parentId }) => {
      const name = parentId === null ? null : parentName(parentId);
      return name === null ? [] : [[parentId!, name] as const];
    }),
  );
  const stories = [...names]
    .sort(([, a], [, b]) => (a < b ? -1 : 1))
    .map(([id, name]) => ({
      id,
      name,
      part: null,
      holds: (card: Card) => card.parentId === id || card.id === id,
    }));
  return [...stories, { id: "alone", name: "Under nothing", part: null, holds: () => true }];
}

/**
 * The stretches of a walk with their items, in the order in which they are gone through: first what
 * was left for later, then by columns from the end backwards, by people or by what items stand
 * under. Within each what is blocked and oldest comes first. Each item comes once; what is not in
 * progress comes not at all, stretches without items neither.
 */
export function walkSections(order: WalkOrder, walked: Walked): WalkSection[] {
  const cards = walked.cards.filter((card) => isInProgress(card.stateKind) && !card.withdrawn);
  const named =
    order === "from the end"
      ? byColumn(walked)
      : order === "by person"
        ? byPerson(cards, walked)
        : byStory(cards, walked);
  const later: Named = {
    id: "left",
    name: "Left for this time",
    part: null,
    holds: ({ id }) => walked.left.includes(id),
  };
  const taken = new Set<string>();
  return [later, ...named]
    .map(({ holds, ...section }) => {
      const items = cards
        .filter((card) => !taken.has(card.id) && holds(card))
        .sort(pressing(walked.ageOf));
      for (const { id } of items) taken.add(id);
      return { ...section, items };
    })
    .filter(({ items }) => items.length > 0);
}

/** Where a walk goes on from an item; null at its end. */
export function afterItem(sections: readonly WalkSection[], itemId: string | null): Card | null {
  const all = sections.flatMap(({ items }) => items);
  if (itemId === null) return all[0] ?? null;
  const at = all.findIndex(({ id }) => id === itemId);
  return all[at + 1] ?? null;
}

/** Where it came from; null at its beginning. */
export function beforeItem(sections: readonly WalkSection[], itemId: string | null): Card | null {
  const all = sections.flatMap(({ items }) => items);
  const at = all.findIndex(({ id }) => id === itemId);
  return at > 0 ? all[at - 1] : null;
}

/**
 * The items that a walk passes by at once: those behind an item with which nothing is wrong, up to
 * the next with which something is.
 */
export function passedBy(
  sections: readonly WalkSection[],
  itemId: string | null,
  isWrong: (card: Card) => boolean,
): { passed: Card[]; next: Card | null } {
  const all = sections.flatMap(({ items }) => items);
  const behind = all.slice(all.findIndex(({ id }) => id === itemId) + 1);
  const at = behind.findIndex(isWrong);
  return at < 0
    ? { passed: behind, next: null }
    : { passed: behind.slice(0, at), next: behind[at] };
}
