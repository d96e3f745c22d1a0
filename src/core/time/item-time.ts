import type { Instant } from "@/core/calendar/instant";
import type { TimeEntry } from "./entry";
import type { TimeSums } from "./sums";

/** What an item says of the time that it takes. */
export interface ItemTime {
  /** The latest day first. */
  entries: (TimeEntry & { who: string; at: Instant })[];
  /** Of the item alone. */
  own: TimeSums;
  /** Of the item with what whoever looks sees under it; null where nothing is. */
  all: (TimeSums & { items: number }) | null;
  /** Of a working day of whoever looks. */
  hoursADay: number;
}
