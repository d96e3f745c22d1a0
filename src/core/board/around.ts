/*
 * What a card says that stands in other items. Nobody is told of items that they may not see, but
 * that one waits for something is told all the same.
 */

import type { OpenBlocker } from "@/core/item/fields";

/** An item at the other end of a dependency. */
export interface Waiting {
  id: string;
  key: string;
  stateId: string;
  teamId: string | null;
  sprintId: string | null;
}

/** How much of a type is under a large piece, and how much of that has finished. */
export interface Below {
  typeId: string;
  count: number;
  finished: number;
}

/** What stands around an item. */
export interface Around {
  /** Items directly under it, and how many of them are finished. */
  children: number;
  finishedChildren: number;
  /** Of a large piece: all that is under it, however deep, by type. */
  below?: readonly Below[];
  /**
   * Of what is not begun: on how many days of the last two weeks somebody said something about it or
   * recorded time on it, and whether it was time.
   */
  talked?: number;
  worked?: boolean;
  /** What it waits for and was not delivered yet, and how much of that is not to be seen. */
  waitsFor: Waiting[];
  waitsForUnseen: number;
  /** What is not finished and waits for it. */
  waitedFor: Waiting[];
}

export const NOTHING_AROUND_IT: Around = {
  children: 0,
  finishedChildren: 0,
  waitsFor: [],
  waitsForUnseen: 0,
  waitedFor: [],
};

/** Of each item by its id; where nothing stands around one, nothing. */
export type AroundItems = Readonly<Record<string, Around>>;

/** The items around which an item stands: what it says of them changes with it. */
export const standsAround = (around: AroundItems, id: string): string[] =>
  Object.entries(around)
    .filter(([, { waitsFor, waitedFor }]) => [...waitsFor, ...waitedFor].some((w) => w.id === id))
    .map(([other]) => other);

/** "waits for TIX-9 and 2 more": what an item waits for, in words; null where it waits for nothing. */
export function waitsForWords({ waitsFor, waitsForUnseen }: Around): string | null {
  const [first, ...others] = waitsFor;
  const more = others.length + (first ? waitsForUnseen : 0);
  if (!first)
    return waitsForUnseen === 0
      ? null
      : waitsForUnseen === 1
        ? "waits for an item outside your view"
        : `waits for ${waitsForUnseen} items outside your view`;
  return more === 0 ? `waits for ${first.key}` : `waits for ${first.key} and ${more} more`;
}

/** What an item waits for beside what is said to block it. */
export function besideBlockers(around: Around, blockers: readonly OpenBlocker[]): Around {
  const named = new Set(blockers.flatMap((blocker) => blocker.dependencyId ?? []));
  const unseen = blockers.filter((blocker) => blocker.dependencyId === null).length;
  return {
    ...around,
    waitsFor: around.waitsFor.filter(({ id }) => !named.has(id)),
    waitsForUnseen: Math.max(0, around.waitsForUnseen - unseen),
  };
}

/**
 * "Story 3 of 7, Bug 1 of 2 done": what is done below a large piece; null where nothing is below it.
 * @param nameOf what a type is called
 */
export const belowWords = (
  below: readonly Below[],
  nameOf: (typeId: string) => string,
): string | null =>
  below.length === 0
    ? null
    : `${below.map((of) => `${nameOf(of.typeId)} ${of.finished} of ${of.count}`).join(", ")} done`;

/** "3 wait for this"; null where nothing does. */
export const waitedForWords = ({ waitedFor }: Around): string | null =>
  waitedFor.length === 0
    ? null
    : waitedFor.length === 1
      ? "1 waits for this"
      : `${waitedFor.length} wait for this`;
