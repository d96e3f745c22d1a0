import type { CountedView } from "@/core/item/list/counted-values";
import type { Look } from "./look";
import type { View, Views } from "./view";

/** What an address asks to look at. */
export interface AskedLook {
  views: Views;
  /** The view that the address names; null where it names none that can be opened. */
  view: View | null;
  /** What it begins as: the view's own look, or the plain one. */
  kept: Look;
  look: Look;
  /** The values that it counts; null where it counts none. */
  counted: CountedView | null;
  /** What of the address could not be done, in sentences. */
  notes: string[];
}
