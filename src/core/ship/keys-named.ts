import { keysIn } from "@/core/item/key";

/**
 * The keys of items that names and messages of a code host hold. Branches are often written in small
 * letters throughout, so there those count too; what is no key of any project nobody finds.
 */
export const keysNamed = (texts: readonly string[]): string[] => [
  ...new Set(
    texts.flatMap((text) => keysIn(text.slice(0, 20_000).toUpperCase().replaceAll("_", " "))),
  ),
];
