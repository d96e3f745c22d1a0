import fc from "fast-check";
import { broken, putAfter, type Standing } from "@/core/timeline/after";
import { barOf, movableParts, movedBy } from "@/core/timeline/bars";
import { ALONE, timelineRows } from "@/core/timeline/rows";
import { dayWidth, rangeOf, ticksOf } from "@/core/timeline/scale";
import { timelinePages, timelineSvg } from "@/core/timeline/svg";
import type { SpanBelow, TimelineItem } from "@/core/timeline/view";
import { isoDate, parseIsoDate } from "@/core/calendar/zone";

const TODAY = 100;

function item(of: Partial<TimelineItem> = {}): TimelineItem {
  return {
    id: "a",
    key: "TIX-1",
    title: "Lamp at the ramp",
    typeId: "story",
    level: 1,
    parentId: null,
    stateKind: "unstarted",
    assigneeId: null,
    sprintId: null,
    releaseId: null,
    version: 1,
    startedOn: null,
    finishedOn: null,
    plannedFrom: null,
    plannedTo: null,
    dueOn: null,
    fixedDate: false,
    blockedSince: null,
    group: null,
    below: null,
    mayEdit: true,
    ...of,
  };
}

const SPRINT = { id: "s", name: "Sprint 22", from: 108, to: 121 };
const context = (until: object = {}) => ({
  today: TODAY,
  sprints: new Map([
    ["s", SPRINT],
    ["gone", { ...SPRINT, id: "gone", from: 80, to: 93 }],
  ]),
  until: until as Record<string, { sure: number | null; even: number | null }>,
});
const segments = (of: Partial<TimelineItem>, until?: object) =>
  barOf(item(of), context(until))?.segments.map(({ kind, from, to }) => [kind, from, to]);

describe("a bar", () => {
  test("of what has finished goes from its start to its finish, and nothing is foretold of it", () => {
    const of = { stateKind: "finished", startedOn: 90, finishedOn: 97 } as const;
    expect(segments(of)).toEqual([["done", 90, 97]]);
    expect(barOf(item(of), context({ a: { sure: 9, even: 3 } }))!.fade).toBeNull();
    expect(segments({ stateKind: "finished", finishedOn: 97 })).toEqual([["done", 97, 97]]);
  });

  test("of what is worked on goes until today, is red while it is blocked, and hatched as planned", () => {
    const begun = { stateKind: "working", startedOn: 92 } as const;
    expect(segments(begun)).toEqual([["worked", 92, 100]]);
    expect(segments({ ...begun, blockedSince: 97, plannedTo: 104 })).toEqual([
      ["worked", 92, 96],
      ["blocked", 97, 100],
      ["planned", 101, 104],
    ]);
    expect(segments({ ...begun, blockedSince: 92 })).toEqual([["blocked", 92, 100]]);
    expect(segments({ ...begun, plannedTo: 98 })).toEqual([["worked", 92, 100]]);
  });

  test("of what waits stands where it is planned, else in its sprint to come, else nowhere", () => {
    expect(segments({ plannedFrom: 105, plannedTo: 109 })).toEqual([["planned", 105, 109]]);
    expect(segments({ plannedTo: 109 })).toEqual([["planned", 109, 109]]);
    expect(segments({ sprintId: "s" })).toEqual([["planned", 108, 121]]);
    expect(barOf(item({ sprintId: "s" }), context())!.by).toBe("sprint");
    expect(segments({ sprintId: "gone" })).toBeUndefined();
    expect(segments({})).toBeUndefined();
  });

  test("fades from its end over the even chance to 85 %, where that lies behind it", () => {
    const begun = { stateKind: "working", startedOn: 92 } as const;
    const fade = (until: object, of: Partial<TimelineItem> = begun) =>
      barOf(item(of), context({ a: until }))!.fade;
    expect(fade({ even: 4, sure: 9 })).toEqual({ from: 101, even: 104, sure: 109 });
    expect(fade({ even: 4, sure: 9 }, { ...begun, plannedTo: 106 })).toEqual({
      from: 107,
      even: 106,
      sure: 109,
    });
    expect(fade({ even: 4, sure: 9 }, { ...begun, plannedTo: 109 })).toBeNull();
    expect(fade({ even: null, sure: null })).toBeNull();
  });

  test("of a large piece follows what is under it, with as much full as is done", () => {
    const below: SpanBelow = { from: 80, to: 119, items: 8, done: 2, begun: true };
    const large = { level: 2, below };
    expect(segments(large)).toEqual([
      ["done", 80, 89],
      ["worked", 90, 119],
    ]);
    expect(segments({ ...large, below: { ...below, done: 0, begun: false } })).toEqual([
      ["planned", 80, 119],
    ]);
    expect(segments({ ...large, below: { ...below, done: 8 } })).toEqual([["done", 80, 119]]);
    // Planned by hand it stands there, whatever is under it.
    const byHand = barOf(item({ ...large, plannedFrom: 90, plannedTo: 129 }), context())!;
    expect([byHand.from, byHand.to, byHand.by]).toEqual([90, 129, "itself"]);
    // Nothing under it has days: as if it stood alone.
    expect(segments({ ...large, below: { ...below, from: null, to: null } })).toBeUndefined();
  });
});

describe("a bar that is moved", () => {
  const bar = { from: 105, to: 109 };
  const waits = item({ plannedFrom: 105, plannedTo: 109 });
  const by = (part: "whole" | "begin" | "end", days: number) =>
    movedBy(waits, bar, { part, days, today: TODAY });

  test("goes as a whole or by one end, and keeps a day at least", () => {
    expect(by("whole", -3)).toEqual({ plannedFrom: 102, plannedTo: 106 });
    expect(by("begin", 2)).toEqual({ plannedFrom: 107, plannedTo: 109 });
    expect(by("begin", 20)).toEqual({ plannedFrom: 109, plannedTo: 109 });
    expect(by("end", -20)).toEqual({ plannedFrom: 105, plannedTo: 105 });
  });

  test("of what was begun has only an end, which is not before today; finished it has none", () => {
    const begun = item({ stateKind: "working", startedOn: 92 });
    expect(movableParts(begun)).toEqual(["end"]);
    const end = { part: "end", today: TODAY } as const;
    expect(movedBy(begun, { from: 92, to: 100 }, { ...end, days: 5 })).toEqual({
      plannedFrom: null,
      plannedTo: 105,
    });
    expect(movedBy(begun, { from: 92, to: 100 }, { ...end, days: -5 }).plannedTo).toBe(TODAY);
    expect(movableParts(item({ stateKind: "finished", finishedOn: 9 }))).toEqual([]);
    expect(movableParts(item({ mayEdit: false }))).toEqual([]);
  });
});

const stands = (...of: [id: string, from: number, to: number, moves?: boolean][]) =>
  new Map(
    of.map(([id, from, to, moves = true]): [string, Standing] => [
      id,
      { id, from, to, moves, loose: false },
    ]),
  );

describe("dependencies", () => {
  test("do not hold where what waits begins before the other has ended", () => {
    const standing = stands(["a", 10, 14], ["b", 14, 18], ["c", 15, 16], ["d", 5, 6, false]);
    expect(
      broken(standing, [
        { id: "b", forId: "a" },
        { id: "c", forId: "a" },
        // Begun already: nothing is to be put elsewhere any more.
        { id: "d", forId: "a" },
        { id: "a", forId: "elsewhere" },
      ]),
    ).toEqual([{ id: "b", forId: "a" }]);
  });

  test("within one sprint hold, and do not where the one that waits is in an earlier one", () => {
    const standing = stands(["a", 10, 23], ["b", 10, 23], ["c", 24, 37]);
    const loose = new Map([...standing].map(([id, one]) => [id, { ...one, loose: true }]));
    const waits = [
      { id: "a", forId: "b" },
      { id: "b", forId: "c" },
    ];
    expect(broken(loose, waits)).toEqual([{ id: "b", forId: "c" }]);
    expect(putAfter(loose, waits, "b").map(({ id, from, to }) => [id, from, to])).toEqual([
      ["b", 38, 51],
      ["a", 52, 65],
    ]);
  });

  test("are mended with all that waits in turn, each as far as it has to and in order", () => {
    const standing = stands(["a", 10, 14], ["b", 12, 15], ["c", 16, 17], ["d", 30, 31]);
    const waits = [
      { id: "b", forId: "a" },
      { id: "c", forId: "b" },
      { id: "d", forId: "c" },
    ];
    expect(putAfter(standing, waits, "b").map(({ id, from, to }) => [id, from, to])).toEqual([
      ["b", 15, 18],
      ["c", 19, 20],
    ]);
    expect(putAfter(standing, waits, "d")).toEqual([]);
    // A circle is not gone round for ever.
    expect(putAfter(standing, [...waits, { id: "a", forId: "c" }], "a").length).toBeLessThan(5);
  });

  test("hold once each that does not was mended, whatever waits for what", () => {
    const chain = fc
      .array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 9 })), {
        minLength: 2,
        maxLength: 9,
      })
      .chain((spans) =>
        fc.record({
          spans: fc.constant(spans),
          // Each waits only for what stands before it in the list: no circles.
          waits: fc.array(
            fc
              .tuple(fc.nat(spans.length - 1), fc.nat(spans.length - 1))
              .filter(([a, b]) => b < a)
              .map(([a, b]) => ({ id: `i${a}`, forId: `i${b}` })),
            { maxLength: 14 },
          ),
        }),
      );
    fc.assert(
      fc.property(chain, ({ spans, waits }) => {
        let standing = stands(
          ...spans.map(([from, days], i): [string, number, number] => [`i${i}`, from, from + days]),
        );
        const before = standing;
        for (let turn = 0; turn <= waits.length; turn++) {
          const [first] = broken(standing, waits);
          if (!first) break;
          const moved = putAfter(standing, waits, first.id);
          standing = new Map([...standing, ...moved.map((one) => [one.id, one] as const)]);
        }
        expect(broken(standing, waits)).toEqual([]);
        for (const [id, { from, to }] of standing) {
          const was = before.get(id)!;
          expect(from).toBeGreaterThanOrEqual(was.from);
          expect(to - from).toBe(was.to - was.from);
        }
      }),
    );
  });
});

describe("rows", () => {
  const below: SpanBelow = { from: 80, to: 119, items: 2, done: 0, begun: true };
  const view = {
    groups: [
      { key: "noor", label: "Noor Bakri" },
      { key: "ivo", label: "Ivo Sandell" },
    ],
    items: [
      item({ id: "v", level: 2, below, title: "Voyage" }),
      item({ id: "s1", parentId: "v", plannedFrom: 104, plannedTo: 106, group: "noor" }),
      item({ id: "s2", parentId: "v", stateKind: "working", startedOn: 90, group: "noor" }),
      item({ id: "x", plannedFrom: 101, group: "ivo" }),
      item({ id: "u", group: "ivo" }),
      item({ id: "f", stateKind: "finished" }),
    ],
  };
  const ids = (inGroups: boolean, ...turned: string[]) =>
    timelineRows(view, context(), { inGroups, turned: new Set(turned) }).rows.map((row) =>
      row.kind === "item" ? `${row.item.id}${row.depth || ""}` : `(${row.label})`,
    );

  test("are large pieces with what is under them once it is unfolded, then what stands alone", () => {
    expect(ids(false)).toEqual(["v", "(Under no large piece)", "x"]);
    expect(ids(false, "v")).toEqual(["v", "s11", "s21", "(Under no large piece)", "x"]);
    expect(ids(false, "v", `group ${ALONE}`)).toEqual([
      "v",
      "s11",
      "s21",
      "(Under no large piece)",
    ]);
  });

  test("stand in their groups, in the order of those; a closed one keeps its count", () => {
    expect(ids(true)).toEqual(["(Noor Bakri)", "s1", "s2", "(Ivo Sandell)", "x"]);
    expect(ids(true, "group noor")).toEqual(["(Noor Bakri)", "(Ivo Sandell)", "x"]);
  });

  test("leave out what nothing says the days of, and tell it apart; finished it is no work to place", () => {
    const { undated } = timelineRows(view, context(), { inGroups: false, turned: new Set() });
    expect(undated.map(({ id }) => id)).toEqual(["u"]);
  });
});

describe("the axis", () => {
  const range = { first: parseIsoDate("2026-11-01"), last: parseIsoDate("2027-02-28") };

  test("shows whole months around all bars and today", () => {
    const { first, last } = rangeOf(
      [{ from: parseIsoDate("2026-11-20"), to: parseIsoDate("2027-01-20") }],
      parseIsoDate("2026-11-29"),
    );
    expect([isoDate(first), isoDate(last)]).toEqual(["2026-11-01", "2027-01-31"]);
    expect(isoDate(rangeOf([], parseIsoDate("2026-11-29")).last)).toBe("2026-12-31");
  });

  test("has lines at days, weeks or months, whichever have room for their names", () => {
    const labels = (width: number) => ticksOf(range, width).map(({ label }) => label);
    expect(labels(72).slice(0, 3)).toEqual(["November 1", "2", "3"]);
    expect(labels(72)).toHaveLength(120);
    expect(labels(26).slice(0, 2)).toEqual(["W45, 2 Nov", "W46, 9 Nov"]);
    expect(labels(9.5)).toEqual(["November 2026", "December", "January 2027", "February"]);
    expect(labels(1)).toEqual(["January 2027"]);
  });

  test("fits all of it into the width that there is", () => {
    expect(dayWidth("fit", range, 1200)).toBe(10);
    expect(dayWidth("quarter", range, 1200)).toBe(dayWidth("quarter", range, 300));
    expect(dayWidth("week", range, 1)).toBeGreaterThan(dayWidth("month", range, 1));
  });
});

test("the drawing as a file has every row, and nothing of a name is markup in it", () => {
  const hostile = item({ title: '<script>alert("x")</script>', plannedFrom: 104, plannedTo: 106 });
  const context0 = context({ a: { even: 9, sure: 20 } });
  const { rows } = timelineRows({ items: [hostile], groups: [] }, context0, {
    inGroups: false,
    turned: new Set(),
  });
  const svg = timelineSvg(
    { today: TODAY, sprints: [SPRINT], releases: [{ ...SPRINT, name: "Crossing & co" }] },
    { name: "What comes when", rows, range: { first: 90, last: 150 }, day: 10 },
  );
  expect(svg).not.toContain("<script");
  expect(svg).toContain("Crossing &amp; co");
  expect(svg).toContain("Sprint 22");
  // Three days of ten pixels, from the day that is the fourteenth.
  expect(svg).toContain('<rect x="440" y="64" width="30"');
  expect(svg).toContain("85 % by");
});

describe("pages to print", () => {
  const marks = { today: TODAY, sprints: [SPRINT], releases: [] };
  const drawn = { name: "What comes when", range: { first: 90, last: 150 } };
  const rowsOf = (many: number) =>
    timelineRows(
      {
        items: Array.from({ length: many }, (_, i) =>
          item({
            id: `i${i}`,
            key: `TIX-${i + 1}`,
            title: `Lamp ${i + 1}.`,
            plannedFrom: 101,
            group: "noor",
          }),
        ),
        groups: [{ key: "noor", label: "Noor" }],
      },
      context(),
      { inGroups: true, turned: new Set() },
    ).rows;

  test("few rows are one page, with the name alone", () => {
    const pages = timelinePages(marks, { ...drawn, rows: rowsOf(3) });
    expect(pages).toHaveLength(1);
    expect(pages[0]).toContain(">What comes when</text>");
  });

  test("many are on several: each row once, and each page has the scale, today and its group", () => {
    const pages = timelinePages(marks, { ...drawn, rows: rowsOf(100) });
    expect(pages.length).toBeGreaterThan(3);
    const shown = pages.flatMap((page) => page.match(/Lamp \d+\./g));
    expect(shown).toEqual(Array.from({ length: 100 }, (_, i) => `Lamp ${i + 1}.`));
    for (const [i, page] of pages.entries()) {
      expect(page).toContain(`What comes when, ${i + 1} of ${pages.length}`);
      expect(page).toContain("today, ");
      expect(page).toContain("Sprint 22");
      expect(page).toContain(i === 0 ? "Noor (100)" : "Noor, continued (100)");
    }
  });

  test("they are as wide as a page on its side, and never higher", () => {
    for (const page of timelinePages(marks, { ...drawn, rows: rowsOf(100) })) {
      const [, width, height] = /viewBox="0 0 (\d+) (\d+)"/.exec(page)!.map(Number);
      expect(height / width).toBeLessThanOrEqual(194 / 281);
    }
  });
});
