import { EVENT_KINDS, readEvent, subjectOf, VERSIONS } from "@/core/events/catalogue";
import { LIVE_PART } from "@/core/events/live";
import { changesCounts } from "@/core/item/event-counts";
import type { ItemChange, ItemEvent } from "@/core/item/event";

const stored = (change: object = {}) => ({
  id: 7,
  projectId: "tix",
  at: 1_000,
  kind: "item changed",
  version: 1,
  data: {
    itemId: "i",
    fromVersion: 1,
    version: 3,
    kinds: ["moved"],
    counts: true,
    depth: 0,
    byId: null,
  },
  ...change,
});

test("an event is read as it was stored, with what its kind says", () => {
  const { version: _, ...rest } = stored();
  expect(readEvent(stored())).toEqual(rest);
});

test("an event of a kind that a newer version wrote is passed over, a broken one is told", () => {
  expect(readEvent(stored({ kind: "tides turned" }))).toBeNull();
  // A name that every object has is no kind.
  expect(readEvent(stored({ kind: "constructor" }))).toBeNull();
  expect(() => readEvent(stored({ data: { itemId: 5 } }))).toThrow();
});

test("what an older version wrote, and nothing has changed since, is read as it is", () => {
  const stored = { id: 1, projectId: "p", at: 5, kind: "plan changed", version: 0, data: {} };
  expect(readEvent(stored)).toEqual({
    id: 1,
    projectId: "p",
    at: 5,
    kind: "plan changed",
    data: {},
  });
  const moved = { ...stored, kind: "item types changed", data: { movedItems: 3 } };
  expect(readEvent(moved)?.data).toEqual({ movedItems: 3 });
});

test("what an event is about is found where it is an item or a report", () => {
  const subject = (data: object) => subjectOf({ kind: "report changed", data } as never);
  expect(subject({ reportId: "r", kinds: [] })).toEqual({ itemId: null, reportId: "r" });
  expect(subject({ itemId: "i", known: true })).toEqual({ itemId: "i", reportId: null });
  expect(subject({})).toEqual({ itemId: null, reportId: null });
});

test("each kind has a version and a part of the page that it concerns", () => {
  expect(EVENT_KINDS.length).toBeGreaterThan(10);
  for (const kind of EVENT_KINDS)
    expect([kind, VERSIONS[kind] >= 1, LIVE_PART[kind] !== undefined]).toEqual([kind, true, true]);
});

test("counts change where items are made, moved, blocked or seen by others, not by words", () => {
  const counts = (change: Partial<ItemChange>) => changesCounts([change as ItemEvent]);
  for (const kind of ["created", "moved", "undone", "withdrawn", "blocked", "lifted"] as const)
    expect([kind, counts({ kind })]).toEqual([kind, true]);
  for (const kind of ["commented", "ranked", "ticked", "linked", "held"] as const)
    expect([kind, counts({ kind })]).toEqual([kind, false]);
  expect(counts({ kind: "changed", field: "restricted" })).toBe(true);
  expect(counts({ kind: "changed", field: "title" })).toBe(false);
  expect(changesCounts([])).toBe(false);
});
