import type { Instant } from "@/core/calendar/instant";

/** An item that was withdrawn, with who did it, when and why. */
export interface WithdrawnItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
  at: Instant;
  who: string;
  why: string;
  /** Whether it can be brought back by itself: not what was taken back with what had made it. */
  byItself: boolean;
}

export interface WithdrawnView {
  project: { key: string; name: string; zone: string };
  items: WithdrawnItem[];
  /** How many there are; the latest are shown. */
  count: number;
  mayBringBack: boolean;
}
