import type { ItemEvent } from "@/core/item/event";
import { replay } from "@/core/item/snapshot";
import type { DemoItem } from "./history";

/**
 * The histories with what was heard beside them, each at its time; what happened at the same time stays in
 * its order.
 * @param heard by the items' ids
 */
export const withHeard = (
  items: readonly DemoItem[],
  heard: ReadonlyMap<string, readonly ItemEvent[]>,
): DemoItem[] =>
  items.map((item) => {
    const facts = heard.get(item.snapshot.id);
    if (!facts) return item;
    const events = [...item.events, ...facts]
      .toSorted((a, b) => a.at - b.at)
      .map((event, i) => ({ ...event, seq: i + 1 }));
    return { ...item, events, snapshot: replay(events) };
  });
