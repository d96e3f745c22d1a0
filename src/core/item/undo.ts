import type { ItemEvent } from "./event";
import type { ItemSnapshot } from "./fields";
import { replay } from "./snapshot";

/** What an undone step does not bring back: the item goes on, and its versions with it. */
const GOES_ON: ReadonlySet<string> = new Set<keyof ItemSnapshot>(["id", "version", "updatedAt"]);

/** The events that a command left, where they are the item's last. */
export function lastSteps(history: readonly ItemEvent[], commandId: string): ItemEvent[] {
  const first = history.findIndex((e) => e.commandId === commandId);
  if (first < 0) return [];
  const steps = history.slice(first);
  return steps.every((e) => e.commandId === commandId) ? steps : [];
}

/** The item as it was before some of its last steps; null where they made it. */
export function asItWas(
  history: readonly ItemEvent[],
  steps: readonly ItemEvent[],
): ItemSnapshot | null {
  const earlier = history.slice(0, history.length - steps.length);
  return earlier.length === 0 ? null : replay(earlier);
}

/** What is different about an item from what it was, as far as undoing brings it back. */
export function restored(was: ItemSnapshot, is: ItemSnapshot): Partial<ItemSnapshot> {
  const differs = (key: string) =>
    !GOES_ON.has(key) &&
    JSON.stringify(was[key as keyof ItemSnapshot]) !==
      JSON.stringify(is[key as keyof ItemSnapshot]);
  return Object.fromEntries(Object.entries(was).filter(([key]) => differs(key)));
}
