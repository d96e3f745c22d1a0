import fc from "fast-check";
import {
  countedAgain,
  countFinished,
  deliveredInDays,
  finishedGroups,
  type FinishedItem,
} from "@/core/board/finished";
import { DAY, HOUR } from "@/core/calendar/instant";

/** Days of a zone that is eight hours behind: what is one day there is two elsewhere. */
const ZONE = "America/Los_Angeles";
/** Noon there. */
const NOON = Date.parse("2026-03-04T20:00:00Z");

type Sized = FinishedItem & { size: number | null };

const item = (change: Partial<Sized> = {}): Sized => ({
  stateId: "live",
  stateKind: "finished",
  classOfService: "standard",
  assigneeId: "noor",
  clock: [{ from: NOON, to: NOON + 9 * HOUR }],
  deliveredAt: NOON + 9 * HOUR,
  finishedAt: NOON + 9 * HOUR,
  size: 2,
  ...change,
});

const COUNTING = { zone: ZONE, now: NOON, amountOf: ({ size }: Sized) => size };

describe("the days that finished items took", () => {
  it("are counted as people of the project's zone count them", () => {
    expect(deliveredInDays([item()], ZONE, NOON)).toEqual([1]);
    expect(deliveredInDays([item()], "UTC", NOON)).toEqual([2]);
  });

  it("are of those alone whose last finish was their first delivery", () => {
    const again = item({ finishedAt: NOON + 9 * DAY });
    const declined = item({ deliveredAt: null });
    const neverBegun = item({ deliveredAt: null, finishedAt: null });
    expect(deliveredInDays([again, declined, neverBegun], ZONE, NOON)).toEqual([]);
  });
});

describe("what has finished", () => {
  const slow = { clock: [{ from: NOON, to: NOON + 5 * DAY }], deliveredAt: NOON + 5 * DAY };
  const groups = finishedGroups(
    [
      item({ ...slow, finishedAt: slow.deliveredAt, size: 5 }),
      item(),
      item({ deliveredAt: null, finishedAt: null, size: null }),
      item({ classOfService: "expedite" }),
      item({ assigneeId: null }),
      item({ stateId: "declined", deliveredAt: null }),
    ],
    COUNTING,
  );

  it("is counted by state, class and person, its days from the fewest", () => {
    const live = { stateId: "live", classOfService: "standard", assigneeId: "noor" };
    expect(groups).toEqual([
      { ...live, items: 3, finished: 2, tookDays: [1, 6], amount: 7 },
      { ...live, classOfService: "expedite", items: 1, finished: 1, tookDays: [1], amount: 2 },
      { ...live, assigneeId: null, items: 1, finished: 1, tookDays: [1], amount: 2 },
      { ...live, stateId: "declined", items: 1, finished: 1, tookDays: [], amount: 2 },
    ]);
  });

  it("is counted by states", () => {
    expect(countFinished(groups, ["live"])).toBe(5);
    expect(countFinished(groups, ["live", "declined"])).toBe(6);
    expect(countFinished(groups, ["review"])).toBe(0);
  });

  it("of nothing is nothing", () => expect(finishedGroups([], COUNTING)).toEqual([]));

  const anyItem = fc
    .record({
      stateId: fc.constantFrom("live", "declined"),
      assigneeId: fc.constantFrom("noor", "ivo", null),
      days: fc.integer({ min: 0, max: 4 }),
      size: fc.option(fc.integer({ min: 0, max: 8 })),
    })
    .map(({ days, ...change }) => {
      const at = NOON + days * DAY;
      return item({ ...change, clock: [{ from: NOON, to: at }], deliveredAt: at, finishedAt: at });
    });
  const ordered = (of: ReturnType<typeof finishedGroups>) =>
    [...of].sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1));

  it("after one came, went or changed is counted as if all were counted anew", () => {
    fc.assert(
      fc.property(
        fc.array(anyItem, { maxLength: 12 }),
        fc.option(fc.nat()),
        fc.option(anyItem),
        (items, which, after) => {
          const at = which === null || items.length === 0 ? -1 : which % items.length;
          const before = at < 0 ? null : items[at];
          const left = items.filter((_, i) => i !== at);
          const anew = finishedGroups([...left, ...(after ? [after] : [])], COUNTING);
          const again = countedAgain(finishedGroups(items, COUNTING), before, after, COUNTING);
          expect(ordered(again)).toEqual(ordered(anew));
        },
      ),
    );
  });
});
