import fc from "fast-check";
import { loadByDay, roomDays, takers, type Work } from "@/core/plan/people-room";
import { isUnder, treeRows } from "@/core/plan/piece-tree";
import { waitingLayout } from "@/core/plan/waiting-layout";
import { placeAmong } from "@/core/plan/waiting-view";

describe("the picture of what waits for what", () => {
  const graph = fc
    .integer({ min: 1, max: 14 })
    .chain((n) =>
      fc.record({
        items: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: n, maxLength: n }),
        waits: fc.array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1)), { maxLength: 18 }),
      }),
    )
    .map(({ items, waits }) => ({
      items: items.map((column, i) => ({ id: `i${i}`, column })),
      waits: waits.map(([a, b]) => ({ id: `i${a}`, forId: `i${b}` })),
    }));

  test("each item stands once, in its column, and no two on one spot", () => {
    fc.assert(
      fc.property(graph, ({ items, waits }) => {
        const { spots, rows } = waitingLayout(items, waits);
        expect(spots.map(({ id }) => id).toSorted()).toEqual(items.map(({ id }) => id).toSorted());
        for (const { id, column, row } of spots) {
          expect(column).toBe(items.find((one) => one.id === id)!.column);
          expect(row).toBeGreaterThanOrEqual(0);
          expect(row).toBeLessThan(rows);
        }
        expect(new Set(spots.map(({ column, row }) => `${column} ${row}`)).size).toBe(spots.length);
      }),
    );
  });

  test("what hangs together is a band of its own: no row is shared with others", () => {
    const { spots } = waitingLayout(
      ["a", "b", "c", "d"].map((id, i) => ({ id, column: i % 2 })),
      [
        { id: "b", forId: "a" },
        { id: "d", forId: "c" },
      ],
    );
    const rowOf = Object.fromEntries(spots.map(({ id, row }) => [id, row]));
    expect(rowOf.a).toBe(rowOf.b);
    expect(rowOf.c).toBe(rowOf.d);
    expect(rowOf.a).not.toBe(rowOf.c);
  });

  test("what waits stands beside what it waits for, so that lines do not cross", () => {
    const items = [
      { id: "a", column: 0 },
      { id: "b", column: 0 },
      { id: "for b", column: 1 },
      { id: "for a", column: 1 },
    ];
    const { spots } = waitingLayout(items, [
      { id: "for a", forId: "a" },
      { id: "for b", forId: "b" },
      { id: "b", forId: "a" },
    ]);
    const rowOf = Object.fromEntries(spots.map(({ id, row }) => [id, row]));
    expect(rowOf["for a"]).toBe(rowOf.a);
    expect(rowOf["for b"]).toBe(rowOf.b);
  });

  test("an item of another project's sprint stands where that ends, what is begun in the first", () => {
    const sprints = [
      { id: "s1", endsOn: "2026-12-07" },
      { id: "s2", endsOn: "2026-12-21" },
    ];
    const at = (sprintId: string | null, until: string | null, begun = false) =>
      placeAmong(sprints, { sprintId, until, stateKind: begun ? "working" : "unstarted" });
    expect(at("s2", "2026-12-21")).toBe(1);
    expect(at("other", "2026-12-05")).toBe(0);
    expect(at("other", "2026-12-07")).toBe(0);
    expect(at("other", "2026-12-08")).toBe(1);
    expect(at("other", "2027-01-08")).toBeNull();
    expect(at(null, null)).toBeNull();
    expect(at(null, null, true)).toBe(0);
    expect(placeAmong([], { sprintId: null, until: null, stateKind: "working" })).toBeNull();
  });
});

describe("the tree of large pieces", () => {
  const nodes = [
    { id: "c1", parentId: null },
    { id: "v1", parentId: "c1" },
    { id: "v2", parentId: "c1" },
    { id: "w", parentId: "gone" },
    { id: "deep", parentId: "v1" },
  ];

  test("each stands behind what it stands under, and is not there where that is folded", () => {
    const rows = treeRows(nodes, new Set());
    expect(rows.map(({ node, depth, parent }) => [node.id, depth, parent])).toEqual([
      ["c1", 0, true],
      ["v1", 1, true],
      ["deep", 2, false],
      ["v2", 1, false],
      ["w", 0, false],
    ]);
    expect(treeRows(nodes, new Set(["c1"])).map(({ node }) => node.id)).toEqual(["c1", "w"]);
    expect(treeRows(nodes, new Set(["v1"])).map(({ node }) => node.id)).toEqual([
      "c1",
      "v1",
      "v2",
      "w",
    ]);
  });

  test("a circle is there once and ends", () => {
    const circle = [
      { id: "a", parentId: "b" },
      { id: "b", parentId: "a" },
    ];
    expect(
      treeRows(circle, new Set())
        .map(({ node }) => node.id)
        .toSorted(),
    ).toEqual(["a", "b"]);
    expect(isUnder(circle, "a", "b")).toBe(true);
    expect(isUnder(circle, "a", "c")).toBe(false);
  });

  test("something stands under another at whatever depth, and under itself", () => {
    expect(isUnder(nodes, "deep", "c1")).toBe(true);
    expect(isUnder(nodes, "c1", "deep")).toBe(false);
    expect(isUnder(nodes, "c1", "c1")).toBe(true);
  });
});

describe("the room of somebody", () => {
  const week = { from: "2026-11-30", to: "2026-12-13" };
  const person = {
    workDays: [0, 1, 2, 3, 4],
    daysOff: [{ from: "2026-12-03", to: "2026-12-03" }],
    hoursADay: 8,
    share: 0.5,
  };
  const days = roomDays(person, week, new Set(["2026-12-08"]));

  test("is the share of the hours of the days on which they work", () => {
    const working = days.filter(({ hours }) => hours > 0).map(({ day }) => day);
    expect(working).toEqual([
      "2026-11-30",
      "2026-12-01",
      "2026-12-02",
      "2026-12-04",
      "2026-12-07",
      "2026-12-09",
      "2026-12-10",
      "2026-12-11",
    ]);
    expect(days.every(({ hours }) => hours === 0 || hours === 4)).toBe(true);
  });

  const hoursOn = (work: Work[]) =>
    Object.fromEntries([...loadByDay(work, days)].map(([day, { hours }]) => [day, hours]));

  test("what has days is spread over those of them on which they work", () => {
    const work = [{ id: "a", hours: 6, from: "2026-12-01", to: "2026-12-04" }];
    expect(hoursOn(work)).toEqual({ "2026-12-01": 2, "2026-12-02": 2, "2026-12-04": 2 });
  });

  test("what is late is for the first day, what falls on free days for the next one", () => {
    expect(hoursOn([{ id: "a", hours: 3, from: "2026-11-01", to: "2026-11-20" }])).toEqual({
      "2026-11-30": 3,
    });
    expect(hoursOn([{ id: "a", hours: 3, from: "2026-12-05", to: "2026-12-06" }])).toEqual({
      "2026-12-07": 3,
    });
  });

  test("of what reaches behind the days that are looked at only a part falls on these", () => {
    const work = [{ id: "a", hours: 20, from: "2026-12-07", to: "2026-12-20" }];
    const sum = Object.values(hoursOn(work)).reduce((all, one) => all + one, 0);
    // One of the two weeks is looked at.
    expect(sum).toBeCloseTo(10, 6);
    expect(hoursOn([{ id: "a", hours: 5, from: "2026-12-21", to: "2026-12-24" }])).toEqual({});
  });

  test("what has no days begins today and takes the room of each day", () => {
    expect(hoursOn([{ id: "a", hours: 9, from: null, to: null }])).toEqual({
      "2026-11-30": 4,
      "2026-12-01": 4,
      "2026-12-02": 1,
    });
    // What nobody has sized is there all the same.
    expect(
      loadByDay([{ id: "a", hours: null, from: null, to: null }], days).get(week.from)?.ids,
    ).toEqual(["a"]);
  });

  test("no hour is lost or made, as long as all days are looked at", () => {
    const day = fc.integer({ min: 0, max: 13 }).map((n) => days[n].day);
    const work = fc.array(fc.record({ hours: fc.integer({ min: 0, max: 12 }), a: day, b: day }), {
      maxLength: 6,
    });
    fc.assert(
      fc.property(work, (all) => {
        const given = all.map(({ hours, a, b }, i) => ({
          id: String(i),
          hours,
          from: a < b ? a : b,
          to: a < b ? b : a,
        }));
        const sum = [...loadByDay(given, days).values()].reduce((s, { hours }) => s + hours, 0);
        expect(sum).toBeCloseTo(
          all.reduce((s, { hours }) => s + hours, 0),
          6,
        );
      }),
    );
  });

  test("who never works has no load that could be placed", () => {
    const none = roomDays({ ...person, workDays: [] }, week, new Set());
    expect(loadByDay([{ id: "a", hours: 5, from: null, to: null }], none).size).toBe(0);
  });

  test("who could take it: room first, then who has done the like, then more room", () => {
    const one = (id: string, free: number, similar: number, away = false) => ({
      id,
      name: id,
      free,
      similar,
      away,
    });
    expect(
      takers(
        [
          one("full", -2, 9),
          one("new", 30, 0),
          one("knows", 8, 4),
          one("off", 40, 9, true),
          one("some", 20, 4),
        ],
        6,
      ).map(({ id }) => id),
    ).toEqual(["some", "knows", "new", "full"]);
  });
});
