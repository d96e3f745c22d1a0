import { DAY, HOUR } from "@/core/calendar/instant";
import { shipped, type ShippedItem } from "@/core/flow/shipped";

/*
 * Worked by hand. Done to live: a after 2 days, b after none (it was live before it was done), c is not live, d after 5:
 * of 0, 2, 5 the middle is 2. Reviews took 1, 3, 4 and 10 hours: the middle of 3 and 4 is 3.5.
 */
const item = (itemId: string, more: Partial<ShippedItem>): ShippedItem => ({
  ...{ itemId, deliveredAt: 10 * DAY, liveAt: null, reviewMs: 0, testMs: 0, hasCase: true },
  ...more,
});
const TABLE = [
  item("a", { liveAt: 12 * DAY, reviewMs: 1 * HOUR, hasCase: false }),
  item("b", { liveAt: 9 * DAY, reviewMs: 10 * HOUR, testMs: 2 * HOUR }),
  item("c", { reviewMs: 3 * HOUR }),
  item("d", { liveAt: 15 * DAY, reviewMs: 4 * HOUR }),
];

test("the worked table", () => {
  expect(shipped(TABLE)).toEqual({
    doneToLive: { median: 2 * DAY, ids: ["d", "a", "b"] },
    review: { median: 3.5 * HOUR, ids: ["b", "d", "c", "a"] },
    // What never was in a test has no time of it: that is not none at all.
    test: { median: 2 * HOUR, ids: ["b"] },
    untested: { ids: ["a"], of: 4 },
  });
});

test("of nothing there are no figures, not zeros", () => {
  const none = { median: null, ids: [] };
  expect(shipped([])).toEqual({
    ...{ doneToLive: none, review: none, test: none },
    untested: { ids: [], of: 0 },
  });
});
