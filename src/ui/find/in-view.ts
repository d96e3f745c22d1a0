"use client";
import { areSeveralChosen } from "@/ui/kit/offered-acts";

/** Marks what stands for an item on the page, with its key. */
const ITEM = "data-item";
/** Marks an item that is open as a whole. */
const OPEN_ITEM = "data-item-open";

/**
 * The item that is in view: the one that has the focus, else the one that is open; none where several
 * are chosen.
 */
export function itemInView(): string | null {
  if (areSeveralChosen()) return null;
  const focused = document.activeElement?.closest(`[${ITEM}]`);
  const at = focused ?? document.querySelector(`[${OPEN_ITEM}]`);
  return at?.getAttribute(ITEM) ?? null;
}
