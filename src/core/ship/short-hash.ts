/** So much of a hash is shown: enough to tell the commits of a repository apart. */
const SHOWN = 8;

/** @example shortHash("a41f09c3d2…") === "a41f09c3" */
export const shortHash = (hash: string): string => hash.slice(0, SHOWN);
