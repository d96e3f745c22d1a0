/*
 * What a card says that stands in other items. Nobody is told of items that they may not see.
 */

/** What stands around an item. */
export interface Around {
  /** Items directly under it, and how many of them are finished. */
  children: number;
  finishedChildren: number;
}

/** Of each item by its id; where nothing stands around one, nothing. */
export type AroundItems = Readonly<Record<string, Around>>;
