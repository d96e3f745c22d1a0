const REVERTS = /\bThis reverts commit ([0-9a-f]{7,64})\b/gi;

/**
 * The commits that a message takes back, in the words that git itself writes for it.
 * Source: git-revert(1).
 * @returns their hashes as they are written there, shortened or whole
 */
export const revertedBy = (message: string): string[] => [
  ...new Set([...message.slice(0, 20_000).matchAll(REVERTS)].map(([, hash]) => hash.toLowerCase())),
];
