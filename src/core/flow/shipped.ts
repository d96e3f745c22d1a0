import type { Instant } from "@/core/calendar/instant";
import { ascending, quantile } from "./quantile";

/** An item that was delivered in a period, as far as its shipping goes. */
export interface ShippedItem {
  itemId: string;
  deliveredAt: Instant;
  /** When all that was merged of it was live first; null where it is not, or nothing was merged. */
  liveAt: Instant | null;
  /** How long it stood in states of its review and of its test, waiting and worked on, in milliseconds. */
  reviewMs: number;
  testMs: number;
  /** Whether a test case says how it is seen to work. */
  hasCase: boolean;
}

/** The middle of some times, in milliseconds, with the items that it is of, the longest first. */
export interface MiddleOf {
  median: number | null;
  ids: string[];
}

export interface Shipped {
  doneToLive: MiddleOf;
  review: MiddleOf;
  test: MiddleOf;
  /** Of what was delivered: what no case tests. */
  untested: { ids: string[]; of: number };
}

function middleOf(times: readonly { itemId: string; ms: number }[]): MiddleOf {
  const longestFirst = times.toSorted((a, b) => b.ms - a.ms);
  const sorted = ascending(times.map(({ ms }) => ms));
  return {
    median: sorted.length === 0 ? null : quantile(sorted, 0.5, 7),
    ids: longestFirst.map(({ itemId }) => itemId),
  };
}

/**
 * How what was delivered in a period was reviewed, tested and came to be live. What was live before it was done took no
 * time from done to live; what was never in a review, or in a test, has no time of it.
 */
export function shipped(items: readonly ShippedItem[]): Shipped {
  const timesOf = (ms: (item: ShippedItem) => number | null) =>
    items.flatMap((item) => {
      const time = ms(item);
      return time === null ? [] : [{ itemId: item.itemId, ms: time }];
    });
  const taken = (ms: number) => (ms > 0 ? ms : null);
  const untested = items.filter(({ hasCase }) => !hasCase);
  return {
    doneToLive: middleOf(
      timesOf(({ liveAt, deliveredAt }) =>
        liveAt === null ? null : Math.max(0, liveAt - deliveredAt),
      ),
    ),
    review: middleOf(timesOf(({ reviewMs }) => taken(reviewMs))),
    test: middleOf(timesOf(({ testMs }) => taken(testMs))),
    untested: { ids: untested.map(({ itemId }) => itemId), of: items.length },
  };
}
