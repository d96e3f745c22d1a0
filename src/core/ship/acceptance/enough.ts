/** How many of those whom an item was shown to have to accept it. */
export const ENOUGH = ["everybody", "1", "2", "3", "4", "5"] as const;
export type Enough = (typeof ENOUGH)[number];

export const ENOUGH_WORDS: Record<Enough, string> = {
  everybody: "everybody it was shown to",
  "1": "one of those it was shown to",
  "2": "two of those it was shown to",
  "3": "three of those it was shown to",
  "4": "four of those it was shown to",
  "5": "five of those it was shown to",
};

/** To how many an item was shown, and how many of them accept it as it is now. */
export interface Accepted {
  asked: number;
  given: number;
}

export const SHOWN_TO_NOBODY: Accepted = { asked: 0, given: 0 };

/**
 * Whether that is enough. What was shown to nobody is never accepted; a number that is larger than that of
 * those who were asked is not reached by their all accepting it.
 */
export function isEnough(enough: Enough, { asked, given }: Accepted): boolean {
  if (asked === 0) return false;
  return enough === "everybody" ? given >= asked : given >= Number(enough);
}

/** How many more have to accept it. */
export const stillMissing = (enough: Enough, { asked, given }: Accepted): number =>
  Math.max(0, (enough === "everybody" ? Math.max(asked, 1) : Number(enough)) - given);
