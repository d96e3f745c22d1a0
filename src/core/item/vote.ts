/** Whether somebody wants an item done, or would rather not have it. */
export const VOTE_SIDES = ["for", "against"] as const;
export type VoteSide = (typeof VOTE_SIDES)[number];

/** What people said for and against an item. */
export interface Votes {
  for: number;
  against: number;
  /** How many told of it, by reports or by saying that it happens to them too. */
  reports: number;
  mine: VoteSide | null;
}

/** The one figure that votes come to everywhere: those for, less those against, and the reports. */
export const votesTotal = ({ for: wanted, against, reports }: Omit<Votes, "mine">): number =>
  wanted - against + reports;
