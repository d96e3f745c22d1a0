import type { OpenBlocker } from "./fields";

/** The cause of a blocker that comes from a dependency, where nobody says more. */
export const WAITS = "Waits for another item";

/**
 * Why an item cannot go on, in words; what it waits for is named as far as one may see it: "waits
 * for TIX-12".
 * @param keyOf the key of an item by its id, null where it is not known
 */
export function blockerWords(
  { cause, dependencyId }: Pick<OpenBlocker, "cause" | "dependencyId">,
  keyOf: (itemId: string) => string | null,
): string {
  if (dependencyId === undefined) return cause;
  const key = dependencyId === null ? null : keyOf(dependencyId);
  const what = `waits for ${key ?? "an item outside your view"}`;
  return cause === WAITS ? what : `${cause}, ${what}`;
}
