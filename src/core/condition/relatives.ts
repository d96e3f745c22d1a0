/** The items that stand directly around another one: those under it, and the one above it. */
export const AMONG = ["children", "parent"] as const;
export type Among = (typeof AMONG)[number];
