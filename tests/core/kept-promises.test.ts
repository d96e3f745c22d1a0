import { keptPromises, nextDue, type PromisedAbout } from "@/core/intake/kept-promises";
import type { TargetState } from "@/core/intake/service-target";

const about = (
  itemId: string,
  standing: TargetState["standing"],
  metAt: number | null,
  dueAt: number | null,
): PromisedAbout => ({
  itemId,
  metAt,
  state: { standing, working: false, used: 0, left: 0, dueAt },
});

describe("kept promises of a period", () => {
  const promises = [
    about("a", "kept", 10, 20),
    about("a", "missed", 30, 20),
    about("b", "missed", null, 15),
    about("c", "on time", null, 40),
    about("d", "paused", null, null),
    about("e", "kept", 50, 60),
    about("f", "missed", 5, 2),
  ];
  test("are items about which one was met in it, or ran out in it unmet; what is open is neither", () => {
    const kept = [...promises, about("g", "kept", 12, 20), about("g", "kept", 30, 35)];
    expect(keptPromises(kept, { from: 8, to: 40 })).toEqual({
      share: 1 / 3,
      decided: 3,
      missed: 2,
      missedIds: ["a", "b"],
    });
  });
  test("the borders belong to the period that begins there", () => {
    const decided = (from: number, to: number) => keptPromises(promises, { from, to }).decided;
    expect([decided(5, 10), decided(10, 15), decided(10, 16), decided(50, 51)]).toEqual([
      1, 1, 2, 1,
    ]);
    expect(decided(51, 100)).toBe(0);
  });
  test("of none there is no share", () =>
    expect(keptPromises([], { from: 0, to: 9 })).toEqual({
      share: null,
      decided: 0,
      missed: 0,
      missedIds: [],
    }));
});

test("what is due next among an item's promises: what is met does not count, what stands still comes last", () => {
  const state = (dueAt: number | null) => about("x", "on time", null, dueAt).state;
  expect(nextDue([state(9), state(4)], [null, null])).toBe(4);
  expect(nextDue([state(9), state(4)], [null, 3])).toBe(9);
  expect(nextDue([state(null), state(4)], [null, 3])).toBe(Infinity);
  expect(nextDue([null, null], [null, null])).toBe(Infinity);
});
