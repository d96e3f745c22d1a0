/**
 * What can be followed: an item, an item with all below it, a label or a part of a project, a view
 * with whatever it shows.
 */
export const FOLLOW_KINDS = ["item", "below", "label", "part", "view"] as const;
export type FollowKind = (typeof FOLLOW_KINDS)[number];

/** Why somebody follows. Whoever has to do with an item follows it until they stop. */
export const FOLLOW_REASONS = [
  "chosen",
  "made it",
  "was given it",
  "reviews it",
  "talked about it",
  "was named",
] as const;
export type FollowReason = (typeof FOLLOW_REASONS)[number];
