import { and, ne } from "drizzle-orm";
import fc from "fast-check";
import { holds, type Asker } from "@/core/condition/evaluate";
import { factOf, type AskedItem, type FactName, type FactValue } from "@/core/condition/facts";
import { printCel } from "@/core/condition/cel-print";
import { factsOffered, type Vocabulary } from "@/core/condition/vocabulary";
import { conditionSchema } from "@/core/condition/condition";
import { isAmount } from "@/core/item/amount";
import { countedAt, valueMeaning } from "@/core/item/list/counted-values";
import { isCounted } from "@/core/item/list/listed";
import { countValues } from "@/server/item/list/counted";
import { arrange, type ListGroup } from "@/core/item/list/arrange";
import {
  isGroupable,
  isSortable,
  isSummed,
  listQuerySchema,
  PLAIN_LIST,
  type ListQuery,
} from "@/core/item/list/query";
import type { PromiseBand } from "@/core/item/promise-band";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { compileCondition } from "@/server/condition/compile";
import { readCursor } from "@/server/item/list/cursor";
import { listKeys } from "@/server/item/list/key";
import { readAnchors, readGroups, readListPage, type ListOf } from "@/server/item/list/read";
import { anyCondition, OWN_FIELDS } from "../core/setup/conditions";
import { FILLED, fillProject } from "./setup/filled-project";
import { givenTestDatabase } from "./setup/test-database";

/*
 * A list from the database against the same list made in memory: two computations of the same order,
 * groups and sums, over random conditions.
 */
givenTestDatabase();

const ASKERS: Asker[] = [
  {
    personId: "oskar",
    teamIds: ["quayside"],
    now: Date.UTC(2026, 10, 26, 9),
    zone: "Europe/London",
    sprints: { current: "sp1", next: "sp2", previous: null, "last three": ["sp2"] },
  },
  {
    personId: null,
    teamIds: [],
    now: Date.UTC(2026, 0, 5, 23, 30),
    zone: "Pacific/Auckland",
  },
];

let asked: AskedItem[];
let vocabulary: Vocabulary;
let promises: Map<string, PromiseBand>;
beforeAll(async () => {
  ({ asked, vocabulary, promises } = await fillProject());
});

const listOf = (asker: Asker, where = FILLED): ListOf => ({
  reader: database(),
  where,
  asker: { ...asker, ownFields: OWN_FIELDS, vocabulary, promises },
});

/** Every page of a list, one after another. */
async function allPages(
  of: ListOf,
  query: ListQuery,
  limit: number,
  sortedBy: FactValue[] = [],
): Promise<string[]> {
  const keys = listKeys(query, of.asker).length;
  const ids: string[] = [];
  let after: string | null = null;
  do {
    const cursor = after === null ? null : readCursor(after, keys);
    const page = await readListPage(of, query, { after: cursor, limit });
    ids.push(...page.ids);
    sortedBy.push(...page.sortedBy);
    expect(page.ids.length).toBeLessThanOrEqual(limit);
    after = page.next;
  } while (after !== null);
  return ids;
}

const anyQuery = (): fc.Arbitrary<ListQuery> => {
  const facts = (fits: (fact: FactName) => boolean) =>
    fc.constantFrom(...factsOffered(vocabulary).filter(fits));
  return fc.record({
    sort: fc.uniqueArray(fc.record({ fact: facts(isSortable), descending: fc.boolean() }), {
      maxLength: 3,
      selector: (s) => s.fact,
    }),
    group: fc.option(facts(isGroupable)),
    sums: fc.uniqueArray(facts(isSummed), { maxLength: 3 }),
  });
};

/** As numbers that are added up in another order come out: nearly the same. */
const nearly = (groups: readonly ListGroup[]) =>
  groups.map((g) => ({
    ...g,
    sums: g.sums.map((s) =>
      s.kind === "date"
        ? s
        : { ...s, sum: near(s.sum), mean: near(s.mean), median: near(s.median) },
    ),
  }));
const near = (n: number | null): number | null =>
  n === null ? null : (expect.closeTo(n, 5) as unknown as number);

test("in memory and in the database a list has the same items in the same order, groups and sums", async () => {
  let grouped = 0;
  await fc.assert(
    fc.asyncProperty(
      anyCondition(vocabulary),
      anyQuery(),
      fc.constantFrom(...ASKERS),
      fc.integer({ min: 1, max: 400 }),
      async (condition, query, asker, limit) => {
        const items = asked.filter((a) => holds(condition, a, asker));
        const { now, zone, personId } = asker;
        const wanted = arrange(items, query, { vocabulary, now, zone, personId });
        const where = and(
          FILLED,
          compileCondition(condition, { ...asker, ownFields: OWN_FIELDS, promises }),
        );
        const of = listOf(asker, where);
        const sortedBy: FactValue[] = [];
        const pageSize = Math.max(limit, Math.ceil(items.length / 6));
        const ids = await allPages(of, query, pageSize, sortedBy);
        const told = { condition: printCel(condition, vocabulary), query };
        expect({ ...told, ids }).toEqual({ ...told, ids: wanted.items.map((a) => a.item.id) });
        const [first] = query.sort;
        const value = (a: AskedItem) =>
          first ? factOf(first.fact).of(a, { now, zone, personId }) : null;
        expect({ ...told, sortedBy }).toEqual({ ...told, sortedBy: wanted.items.map(value) });
        const groups = await readGroups(of, query);
        expect({ ...told, groups }).toEqual({ ...told, groups: nearly(wanted.groups) });
        if (groups.length > 2) grouped += 1;
      },
    ),
    { numRuns: 250 },
  );
  // Groups of several kinds were met, or the comparison would say little.
  expect(grouped).toBeGreaterThan(25);
});

test("values are counted alike, add up to the whole, and mean the items that were counted", async () => {
  let several = 0;
  await fc.assert(
    fc.asyncProperty(
      anyCondition(vocabulary),
      fc.constantFrom(...factsOffered(vocabulary).filter(isCounted)),
      fc.option(fc.constantFrom(...factsOffered(vocabulary).filter(isAmount))),
      fc.constantFrom(...ASKERS),
      async (condition, fact, sum, asker) => {
        const { now, zone, personId } = asker;
        const at = { now, zone, personId };
        const items = asked.filter((a) => holds(condition, a, asker));
        const wanted = new Map<string | null, { count: number; sum: number }>();
        for (const one of items)
          for (const key of countedAt(fact, one, at)) {
            const value = wanted.get(key) ?? { count: 0, sum: 0 };
            value.count += 1;
            value.sum += sum === null ? 0 : ((factOf(sum).of(one, at) as number | null) ?? 0);
            wanted.set(key, value);
          }
        const where = and(
          FILLED,
          compileCondition(condition, { ...asker, ownFields: OWN_FIELDS, promises }),
        );
        const counts = await countValues(listOf(asker, where), fact, sum);
        const told = { condition: printCel(condition, vocabulary), fact, sum };
        const byKey = new Map(counts.map(({ key, ...value }) => [key, value]));
        const near = [...wanted].map(([key, value]) => [
          key,
          { ...value, sum: expect.closeTo(value.sum, 5) as unknown },
        ]);
        expect({ ...told, counts: byKey }).toEqual({ ...told, counts: new Map(near as never) });
        for (const { key, count } of counts) {
          const meant = valueMeaning(fact, key, at);
          expect(conditionSchema.safeParse(meant).success).toBe(true);
          const of = items.filter((one) => holds(meant, one, asker)).length;
          expect({ ...told, key, of }).toEqual({ ...told, key, of: count });
        }
        if (counts.length > 2) several += 1;
      },
    ),
    { numRuns: 200 },
  );
  expect(several).toBeGreaterThan(25);
});

test("an anchor leads to the rows behind every so many", async () => {
  const query: ListQuery = { ...PLAIN_LIST, sort: [{ fact: "title", descending: true }] };
  const everything = listOf(ASKERS[0], undefined);
  const keys = listKeys(query, everything.asker).length;
  const ids = await allPages(everything, query, 5_000);
  const anchors = await readAnchors(everything, query, 100);
  expect(anchors).toHaveLength(Math.floor(ids.length / 100));
  for (const [i, anchor] of anchors.entries()) {
    const after = readCursor(anchor, keys);
    const page = await readListPage(everything, query, { after, limit: 3 });
    expect(page.ids).toEqual(ids.slice((i + 1) * 100, (i + 1) * 100 + 3));
  }
});

test("a place that a row was at stays a place when the row is gone", async () => {
  const of = listOf(ASKERS[0]);
  const whole = await readListPage(of, PLAIN_LIST, { after: null, limit: 4 });
  const keys = listKeys(PLAIN_LIST, of.asker).length;
  const first = await readListPage(of, PLAIN_LIST, { after: null, limit: 2 });
  const [, second, third] = whole.ids;
  const without = listOf(ASKERS[0], and(FILLED, ne(item.id, second)));
  const next = await readListPage(without, PLAIN_LIST, {
    after: readCursor(first.next!, keys),
    limit: 1,
  });
  expect(next.ids).toEqual([third]);
});

test("a place that is none is refused, and so is a list by what cannot be sorted or grouped", () => {
  expect(readCursor("not a cursor", 2)).toBeNull();
  expect(readCursor(Buffer.from('["a"]').toString("base64url"), 2)).toBeNull();
  expect(readCursor(Buffer.from('[{"a":1},"b"]').toString("base64url"), 2)).toBeNull();
  expect(readCursor("x".repeat(30_000), 2)).toBeNull();
  const reads = (query: unknown) => listQuerySchema.safeParse(query).success;
  expect(reads({ sort: [{ fact: "title" }], group: "typeId", sums: ["estimate"] })).toBe(true);
  expect(reads({})).toBe(true);
  expect(reads({ sort: [{ fact: "labels" }] })).toBe(false);
  expect(reads({ sort: [{ fact: "id; drop table item" }] })).toBe(false);
  expect(reads({ group: "title" })).toBe(false);
  expect(reads({ sums: ["priority"] })).toBe(false);
  expect(reads({ sort: Array(7).fill({ fact: "title" }) })).toBe(false);
});
