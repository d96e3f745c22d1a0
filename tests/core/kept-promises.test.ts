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
  test("are those that were met in it, or ran out in it unmet; what is open is neither", () => {
    expect(keptPromises(promises, { from: 8, to: 40 })).toEqual({
      share: 1 / 3,
      decided: 3,
      missed: 2,
      missedIds: ["a", "b"],
    });
  });
  test("the borders belong to the period that begins there, so periods side by side add up", () => {
    const parts = [0, 10, 30, 50].map((from, i, all) =>
      keptPromises(promises, { from, to: all[i + 1] ?? 100 }),
    );
    const whole = keptPromises(promises, { from: 0, to: 100 });
    expect(parts.reduce((sum, p) => sum + p.decided, 0)).toBe(whole.decided);
    expect(parts.reduce((sum, p) => sum + p.missed, 0)).toBe(whole.missed);
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
