import fc from "fast-check";
import { DAY } from "@/core/calendar/instant";
import { smallZigzag } from "@/core/flow/small-zigzag";
import { zigzag } from "@/core/flow/zigzag";
import { promiseLeft, promiseLeftWords } from "@/core/item/promise-left";
import type { Stay } from "@/core/item/snapshot";

const HOUR = DAY / 24;
const KINDS = ["waiting", "working", "unstarted"] as const;

describe("an item's line on its card", () => {
  const stays = (...kinds: [Stay["kind"], number][]): Stay[] => {
    let at = 0;
    return kinds.map(([kind, days]) => {
      const from = at;
      at += days * DAY;
      return { stateId: kind + from, kind, outcome: null, from, to: at };
    });
  };

  it("runs high while it is worked on and low while it waits, each as wide as it was long", () => {
    const its = stays(["waiting", 1], ["working", 2], ["working", 1], ["waiting", 1]);
    const small = smallZigzag(zigzag({ stays: its, blocks: [] }, 5 * DAY));
    expect(small).toEqual([
      ["low", 0.2],
      ["high", 0.6],
      ["low", 0.2],
    ]);
  });

  it("breaks off while it is blocked, and is nothing before it begins", () => {
    const its = stays(["working", 4]);
    const blocks = [{ from: DAY, to: 3 * DAY }];
    const levels = smallZigzag(zigzag({ stays: its, blocks }, 4 * DAY)).map(([level]) => level);
    expect(levels).toEqual(["high", "blocked", "high"]);
    expect(smallZigzag(zigzag({ stays: stays(["unstarted", 3]), blocks: [] }, 3 * DAY))).toEqual(
      [],
    );
  });

  it("always fills its place, and no stretch is too thin to be seen", () => {
    const part = fc.tuple(fc.constantFrom(...KINDS), fc.integer({ min: 1, max: 400 }));
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 12 }), (parts) => {
        const its = stays(...parts);
        const small = smallZigzag(zigzag({ stays: its, blocks: [] }, its.at(-1)!.to!));
        if (small.length === 0) return;
        const sum = small.reduce((all, [, share]) => all + share, 0);
        expect(sum).toBeCloseTo(1, 1);
        for (const [, share] of small) expect(share).toBeGreaterThan(0.015);
        for (const [i, [level]] of small.entries()) expect(level).not.toBe(small[i - 1]?.[0]);
      }),
    );
  });
});

describe("what is left of what was promised", () => {
  const owed = (left: number, standing = "on time", working = false) => ({
    left,
    standing,
    working,
  });

  test.each([
    [{ answer: owed(4 * HOUR), resolve: owed(50 * HOUR) }, "answer due in 4 h"],
    [{ answer: null, resolve: owed(33 * HOUR) }, "promise ends in 33 h"],
    [{ answer: null, resolve: owed(96 * HOUR) }, "promise ends in 4 days"],
    [{ answer: null, resolve: owed(96 * HOUR, "on time", true) }, "promise ends in 96 working h"],
    [{ answer: owed(-2 * HOUR, "missed"), resolve: null }, "answer over by 2 h"],
    [{ answer: null, resolve: owed(HOUR / 2) }, "promise ends in 30 min"],
    [{ answer: null, resolve: owed(HOUR, "paused") }, "promise waits for the requester"],
  ])("%# is said as people say it", (of, words) => {
    expect(promiseLeftWords(promiseLeft(of)!)).toBe(words);
  });

  it("is nothing where nothing is owed any more", () => {
    expect(promiseLeft({ answer: null, resolve: null })).toBeNull();
  });
});
