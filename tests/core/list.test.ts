import { arrange } from "@/core/item/list/arrange";
import { listOffers } from "@/core/item/list/behind";
import { bandStarts, groupKeyOf, groupLabel, groupSortKey } from "@/core/item/list/group";
import { compareCodePoints, compareKeys, sortKeyOf } from "@/core/item/list/order";
import { PLAIN_LIST, type ListQuery } from "@/core/item/list/query";
import { summaryOf } from "@/core/item/list/sums";
import { valueWords } from "@/core/item/list/value-words";
import { NOTHING_AROUND, type AskedItem } from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import { VOCABULARY } from "./setup/conditions";
import { DAY, plainItem } from "./setup/make";

/** Thursday 26 November 2026, 23:30 in London. */
const AT = { now: Date.UTC(2026, 10, 26, 23, 30), zone: "Europe/London" };
const asked = (id: string, change: Partial<ItemSnapshot>): AskedItem => ({
  ...NOTHING_AROUND,
  item: { ...plainItem, id, rank: "a0", ...change },
});

describe("bands of dates", () => {
  test("begin today, tomorrow, next Monday and the Monday after", () => {
    expect(bandStarts(AT)).toEqual({
      today: "2026-11-26",
      "later this week": "2026-11-27",
      "next week": "2026-11-30",
      later: "2026-12-07",
    });
  });
  test.each([
    ["2026-11-25", "past"],
    ["2026-11-26", "today"],
    ["2026-11-27", "later this week"],
    ["2026-11-29", "later this week"],
    ["2026-11-30", "next week"],
    ["2026-12-06", "next week"],
    ["2026-12-07", "later"],
  ])("%s is %s", (date, band) => expect(groupKeyOf("dueOn", date, AT)).toBe(band));
  test("the day is that of the zone; on a Sunday nothing is left of the week", () => {
    expect(groupKeyOf("dueOn", "2026-11-26", { ...AT, zone: "Pacific/Auckland" })).toBe("past");
    const sunday = { ...AT, now: AT.now + 3 * DAY };
    expect(groupKeyOf("dueOn", "2026-11-30", sunday)).toBe("next week");
    expect(groupKeyOf("dueOn", "2026-11-29", sunday)).toBe("today");
    expect(groupKeyOf("dueOn", null, AT)).toBeNull();
  });
  test("stand in their order, and are called what they are", () => {
    const places = ["past", "today", "later this week", "next week", "later"].map((band) =>
      groupSortKey("dueOn", band, VOCABULARY),
    );
    expect(places).toEqual([0, 1, 2, 3, 4]);
    expect(groupLabel("dueOn", "next week", VOCABULARY)).toBe("next week");
    expect(groupLabel("dueOn", null, VOCABULARY)).toBe("none");
  });
});

test.each([
  [0, "less than a day"],
  [0.99, "less than a day"],
  [1, "1 to 3 days"],
  [6.99, "3 to 7 days"],
  [7, "7 to 14 days"],
  [14, "14 days and more"],
  [400, "14 days and more"],
])("%s days in a state are grouped as %s", (days, band) => {
  expect(groupKeyOf("daysInState", days, AT)).toBe(band);
  expect(groupLabel("daysInState", band, VOCABULARY)).toBe(band);
  expect(groupSortKey("daysInState", band, VOCABULARY)).toBeGreaterThanOrEqual(0);
});

test("groups of other facts are called by their values, and stand where those stand", () => {
  expect(groupKeyOf("blocked", false, AT)).toBe("false");
  expect(groupLabel("blocked", "false", VOCABULARY)).toBe("no");
  expect(groupLabel("blocked", "true", VOCABULARY)).toBe("yes");
  expect(groupSortKey("blocked", "true", VOCABULARY)).toBe(1);
  expect(groupLabel("estimate", "2.5", VOCABULARY)).toBe("2.5");
  expect(groupSortKey("estimate", "10", VOCABULARY)).toBe(10);
  expect(groupLabel("teamId", "quayside", VOCABULARY)).toBe("Quayside");
  expect(groupSortKey("teamId", "quayside", VOCABULARY)).toBe(1);
  expect(groupSortKey("teamId", null, VOCABULARY)).toBeNull();
});

test("choices stand as they are offered, what is offered no more behind them, no before yes", () => {
  const place = (fact: Parameters<typeof sortKeyOf>[0], value: Parameters<typeof sortKeyOf>[1]) =>
    sortKeyOf(fact, value, VOCABULARY);
  expect(["low", "normal", "high", "urgent"].map((p) => place("priority", p))).toEqual([
    ...Array(4).keys(),
  ]);
  expect(place("typeId", "story")).toBe(1);
  expect(place("typeId", "gone")).toBe(2);
  expect([place("blocked", false), place("blocked", true)]).toEqual([0, 1]);
  expect(place("title", "Zoë und Übel")).toBe("zoë und Übel");
  expect(place("estimate", 3)).toBe(3);
  expect(place("dueOn", "2026-12-01")).toBe("2026-12-01");
  expect(place("estimate", null)).toBeNull();
});

test("keys rise or fall, and none stands last either way", () => {
  const sorted = (descending: boolean) =>
    [3, null, 1, 2].sort((a, b) => compareKeys(a, b, descending));
  expect(sorted(false)).toEqual([1, 2, 3, null]);
  expect(sorted(true)).toEqual([3, 2, 1, null]);
  expect(compareKeys(null, null)).toBe(0);
  // By code points: what JavaScript writes as two halves stands behind everything written as one.
  expect(compareCodePoints("\u{1F6A2}", "\uFF5E")).toBeGreaterThan(0);
  expect(compareCodePoints("ab", "abc")).toBeLessThan(0);
  expect(compareCodePoints("abc", "abc")).toBe(0);
});

describe("a list", () => {
  const items = [
    asked("a", { estimate: 5, typeId: "bug", title: "b", rank: "a2" }),
    asked("b", { estimate: null, typeId: "story", title: "B", rank: "a1" }),
    asked("c", { estimate: 2, typeId: "bug", title: "a", rank: "a3" }),
    asked("d", { estimate: 5, typeId: "gone", title: "c", rank: "a1" }),
  ];
  const shown = (query: Partial<ListQuery>) => {
    const { groups, items: rows } = arrange(
      items,
      { ...PLAIN_LIST, ...query },
      { vocabulary: VOCABULARY, ...AT },
    );
    return { groups, ids: rows.map((r) => r.item.id).join("") };
  };
  test("stands by rank, then by id", () => {
    expect(shown({}).ids).toBe("bdac");
    expect(shown({}).groups).toEqual([{ key: null, count: 4, sums: [] }]);
  });
  test("is sorted by one thing after another", () => {
    expect(shown({ sort: [{ fact: "estimate", descending: true }] }).ids).toBe("dacb");
    expect(
      shown({
        sort: [
          { fact: "estimate", descending: false },
          { fact: "title", descending: true },
        ],
      }).ids,
    ).toBe("cdab");
  });
  test("is grouped, each group with its count and its sums, in its own order", () => {
    const { groups, ids } = shown({
      group: "typeId",
      sort: [{ fact: "estimate", descending: false }],
      sums: ["estimate", "dueOn"],
    });
    expect(ids).toBe("cabd");
    expect(groups.map((g) => [g.key, g.count])).toEqual([
      ["bug", 2],
      ["story", 1],
      ["gone", 1],
    ]);
    expect(groups[0].sums).toEqual([
      { kind: "number", of: 2, sum: 7, mean: 3.5, median: 3.5 },
      { kind: "date", of: 0, earliest: null, latest: null },
    ]);
    expect(groups[1].sums[0]).toEqual({ kind: "number", of: 0, sum: 0, mean: null, median: null });
  });
  test("of nothing has one group of nothing, or none where it is grouped", () => {
    const none = (query: Partial<ListQuery>) =>
      arrange([], { ...PLAIN_LIST, ...query }, { vocabulary: VOCABULARY, ...AT }).groups;
    expect(none({})).toEqual([{ key: null, count: 0, sums: [] }]);
    expect(none({ group: "typeId" })).toEqual([]);
  });
});

test("the middle of an odd number of values is one of them; dates have a first and a last", () => {
  const sized = [9, 1, 4].map((estimate, i) => asked(`${i}`, { estimate }));
  expect(summaryOf("estimate", sized, AT)).toMatchObject({ median: 4, sum: 14, of: 3 });
  const due = ["2026-12-03", null, "2026-11-30"].map((dueOn, i) => asked(`${i}`, { dueOn }));
  expect(summaryOf("dueOn", due, AT)).toEqual({
    kind: "date",
    of: 2,
    earliest: "2026-11-30",
    latest: "2026-12-03",
  });
});

test.each([
  ["estimate", null, "none"],
  ["assigneeId", null, "nobody"],
  ["estimate", 1234.56, "1,234.6"],
  ["daysInState", 3.04, "3 days"],
  ["daysInState", 0.98, "1 day"],
  ["own.number.f-value", 40, "40 pounds"],
  ["dueOn", "2026-12-03", "3 Dec"],
  ["priority", "high", "high"],
  ["teamId", "quayside", "Quayside"],
  ["blocked", true, "yes"],
  ["blocked", false, "no"],
  ["title", "Gate hums", "Gate hums"],
] as const)("%s %s is said as %s", (fact, value, words) => {
  expect(valueWords(fact, value, VOCABULARY)).toBe(words);
});

test("a list offers to be sorted by what has one value, and grouped by what has few", () => {
  const { sorts, groupings } = listOffers(VOCABULARY);
  const labels = (options: { label: string }[]) => options.map((o) => o.label);
  expect(labels(sorts)).toEqual(
    expect.arrayContaining(["title", "estimate", "Value lost per week"]),
  );
  expect(labels(sorts)).not.toEqual(expect.arrayContaining(["labels"]));
  expect(labels(groupings)).toEqual(expect.arrayContaining(["type", "due date", "Route"]));
  expect(labels(groupings)).not.toContain("title");
  expect(labels(groupings)).not.toContain("Quays");
});
