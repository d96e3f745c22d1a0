import { burnUp, movedWords } from "@/core/plan/release-plan";
import { releaseSchema } from "@/core/plan/sprint";
import type { ItemOverTime } from "@/core/plan/sprint-ledger";

describe("the day of a release", () => {
  const change = (from: string | null, to: string | null) => ({ from, to });
  test.each([
    [[], null],
    [[change(null, "2026-12-01")], null],
    [[change("2026-12-01", null)], null],
    [[change("2026-12-01", "2026-12-08")], "moved once, by 7 days"],
    [
      [change("2026-12-01", "2026-12-15"), change("2026-12-15", "2026-12-10")],
      "moved twice, by 9 days",
    ],
    [[change("2026-12-10", "2026-12-09")], "moved once, 1 day earlier"],
    [
      [change("2026-12-01", "2026-12-08"), change("2026-12-08", "2026-12-01")],
      "moved twice, and back",
    ],
    [
      [
        change("2026-12-01", "2026-12-08"),
        change("2026-12-08", "2026-12-15"),
        change("2026-12-15", "2027-01-01"),
      ],
      "moved 3 times, by 31 days",
    ],
  ])("moved as %j reads %j", (changes, words) => expect(movedWords(changes)).toBe(words));

  test("may be left out, and takes no more of a reason than is read", () => {
    const release = { id: "r", name: "Crossing 20", dueOn: null, released: false };
    expect(releaseSchema.parse(release).why).toBeUndefined();
    expect(releaseSchema.parse({ ...release, why: " The storm. " }).why).toBe("The storm.");
    expect(releaseSchema.safeParse({ ...release, why: "x".repeat(301) }).success).toBe(false);
    expect(releaseSchema.safeParse({ ...release, dueOn: "30 Feb" }).success).toBe(false);
  });
});

test("a release gets ready by what is finished in it, with all that is in it drawn apart", () => {
  const item = (of: Partial<ItemOverTime>): ItemOverTime => ({
    id: "a",
    inside: [{ from: 0, to: null }],
    finished: [],
    sizes: [{ from: 0, size: 3 }],
    deliveredAt: null,
    ...of,
  });
  const items = [
    item({ finished: [{ from: 15, to: null }] }),
    // Comes later, without a size; goes out again.
    item({ id: "b", inside: [{ from: 12, to: 35 }], sizes: [{ from: 0, size: null }] }),
    // Grows, is finished, and is reopened.
    item({
      id: "c",
      sizes: [
        { from: 0, size: 2 },
        { from: 25, size: 5 },
      ],
      finished: [{ from: 22, to: 38 }],
    }),
  ];
  const ends = [10, 20, 30, 40].map((at, day) => ({ day, at }));
  expect(burnUp(items, ends)).toEqual([
    { day: 0, scope: { points: 5, items: 2 }, done: { points: 0, items: 0 } },
    { day: 1, scope: { points: 5, items: 3 }, done: { points: 3, items: 1 } },
    { day: 2, scope: { points: 8, items: 3 }, done: { points: 8, items: 2 } },
    { day: 3, scope: { points: 8, items: 2 }, done: { points: 3, items: 1 } },
  ]);
});
