import { countRest, deliveredInDays, restOf, type FinishedTimes } from "@/core/board/finished";
import { DAY, HOUR } from "@/core/calendar/instant";

/** Days of a zone that is eight hours behind: what is one day there is two elsewhere. */
const ZONE = "America/Los_Angeles";
/** Noon there. */
const NOON = Date.parse("2026-03-04T20:00:00Z");

const item = (change: Partial<FinishedTimes> = {}): FinishedTimes => ({
  stateId: "live",
  stateKind: "finished",
  classOfService: "standard",
  clock: [{ from: NOON, to: NOON + 9 * HOUR }],
  deliveredAt: NOON + 9 * HOUR,
  finishedAt: NOON + 9 * HOUR,
  ...change,
});

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

describe("the rest of what has finished", () => {
  const slow = { clock: [{ from: NOON, to: NOON + 5 * DAY }], deliveredAt: NOON + 5 * DAY };
  const rests = restOf(
    [
      item({ ...slow, finishedAt: slow.deliveredAt }),
      item(),
      item({ deliveredAt: null, finishedAt: null }),
      item({ classOfService: "expedite" }),
      item({ stateId: "declined", deliveredAt: null }),
    ],
    ZONE,
    NOON,
  );

  it("is summed up by state, expedite apart, its days from the fewest", () => {
    expect(rests).toEqual([
      { stateId: "live", expedite: false, items: 3, finished: 2, tookDays: [1, 6] },
      { stateId: "live", expedite: true, items: 1, finished: 1, tookDays: [1] },
      { stateId: "declined", expedite: false, items: 1, finished: 1, tookDays: [] },
    ]);
  });

  it("is counted by states, and by lane where one is asked for", () => {
    expect(countRest(rests, ["live"])).toBe(4);
    expect(countRest(rests, ["live"], true)).toBe(1);
    expect(countRest(rests, ["live", "declined"], false)).toBe(4);
    expect(countRest(rests, ["review"])).toBe(0);
  });

  it("of nothing is nothing", () => expect(restOf([], ZONE, NOON)).toEqual([]));
});
