import fc from "fast-check";
import {
  factsOfPresence,
  mergedSince,
  presencesOf,
  type DeployedPart,
  type MergedCommit,
  type Standing,
} from "@/core/ship/what-is-where";
import {
  furthestOf,
  inOrderOfWay,
  objectionsOf,
  rowsOfWay,
  type EnvironmentView,
  type WhereRow,
} from "@/core/ship/what-is-where-view";

/*
 * A main branch is a row of commits; a deployment puts the first n of them somewhere. What the product
 * says of items is held against counting by hand.
 */

const REPOSITORY = "r";
const ON: DeployedPart = { repositoryId: REPOSITORY, environment: "test", part: "app" };

const merged = (place: number, revertedBy: number | null = null): MergedCommit => ({
  ...{ repositoryId: REPOSITORY, hash: `c${place}`, mergedAt: place },
  revertedBy: revertedBy === null ? null : `c${revertedBy}`,
});
/** The first n commits of main, since a time. */
const standing = (n: number, since = 100, part = ON): Standing[] =>
  Array.from({ length: n }, (_, i) => ({ ...part, hash: `c${i}`, since }));

describe("where an item is", () => {
  test("all of it where all that was merged for it is, part of it where some is", () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(30), { minLength: 1, maxLength: 6 }),
        fc.nat(31),
        (places, deployed) => {
          const own = places.map((place) => merged(place));
          const [presence] = presencesOf(own, standing(deployed), [ON]);
          const there = places.filter((place) => place < deployed).length;
          if (there === 0) expect(presence).toBeUndefined();
          else expect(presence.whole).toBe(there === places.length);
        },
      ),
    );
  });

  test("what was taken back is not waited for, and is there only where it was not taken back", () => {
    const own = [merged(1, 4), merged(2)];
    expect(presencesOf(own, standing(3), [ON])).toMatchObject([{ whole: true }]);
    expect(presencesOf([merged(1, 4)], standing(3), [ON])).toMatchObject([{ whole: true }]);
    expect(presencesOf([merged(1, 4)], standing(5), [ON])).toEqual([]);
    expect(mergedSince([merged(1, 4)])).toBeNull();
    expect(mergedSince(own)).toBe(2);
  });

  test("since the last of it came", () => {
    const [one, other] = [standing(1, 50)[0], { ...standing(2, 90)[1] }];
    expect(presencesOf([merged(0), merged(1)], [one, other], [ON])[0].since).toBe(90);
  });

  test("with every part that is deployed by itself, and every repository that is deployed at all", () => {
    const other = { ...ON, part: "prices" };
    const both = presencesOf([merged(0)], standing(1), [ON, other]);
    expect(both).toMatchObject([{ whole: false }]);
    const docs = { ...merged(0), repositoryId: "docs" };
    expect(presencesOf([merged(0), docs], standing(1), [ON])).toMatchObject([{ whole: true }]);
    const live = { ...ON, repositoryId: "docs", environment: "live" };
    expect(presencesOf([merged(0), docs], standing(1), [ON, live])).toMatchObject([
      { environment: "test", whole: false },
    ]);
  });
});

describe("what an item is told", () => {
  const heard = new Map([["test", "Test"]]);
  const there = [{ environment: "test", whole: true, since: 1 }];

  test("is what changes, by the environment's own name, and nothing twice", () => {
    const came = { kind: "deployed", environment: "Test" };
    expect(factsOfPresence(there, [], heard)).toEqual([came]);
    expect(factsOfPresence(there, ["TEST"], heard)).toEqual([]);
    const left = { kind: "deployed no more", environment: "TEST" };
    expect(factsOfPresence([{ ...there[0], whole: false }], ["TEST"], heard)).toEqual([left]);
  });

  test("says nothing of an environment that no deployment was told of", () => {
    expect(factsOfPresence([], ["production"], heard)).toEqual([]);
  });
});

describe("the picture", () => {
  const environment = (id: string, live = false): EnvironmentView => ({
    ...{ id, name: id, address: "", live, freezes: [], now: [], history: [], asked: [] },
  });
  const environments = [environment("test"), environment("live", true)];
  const row = (key: string, on: Record<string, boolean>, mergedAt = 0): WhereRow => ({
    ...{ id: key, key, title: key, typeId: "bug", mergedAt, stateName: "In test" },
    ...{ testResult: key === "passed" ? "passed" : key === "failed" ? "failed" : null },
    presences: Object.entries(on).map(([environmentId, whole]) => ({
      ...{ environmentId, whole, since: mergedAt + 1 },
    })),
  });
  const rows = [
    row("live", { test: true, live: true }),
    row("tested", { test: true }),
    row("new", {}, 9),
    row("older", {}, 3),
    row("half", { test: false }),
  ];
  const keys = (all: readonly WhereRow[]) => all.map(({ key }) => key);

  test("each row is in one of the ways to look, or in the first, which is all but what arrived", () => {
    const of = (environmentId: string) =>
      keys(rowsOfWay(rows, environments, { kind: "waits at", environmentId }));
    expect(of("merged")).toEqual(["new", "older", "half"]);
    expect(of("test")).toEqual(["tested"]);
    expect(keys(rowsOfWay(rows, environments, { kind: "arrived" }))).toEqual(["live"]);
    expect(rowsOfWay(rows, environments, { kind: "on the way" })).toHaveLength(4);
    expect(furthestOf(rows[4], environments)).toBeNull();
  });

  test("what came least far stands first, then what came there last", () => {
    expect(keys(inOrderOfWay(rows, environments))).toEqual([
      ...["new", "older", "half"],
      ...["tested", "live"],
    ]);
  });

  test("only a test that passed speaks for a deployment", () => {
    const asked = [row("passed", {}), row("failed", {}), row("none", {})];
    expect(objectionsOf(asked)).toEqual([
      { key: "failed", objection: "failed its test" },
      { key: "none", objection: "was never tested" },
    ]);
  });
});
