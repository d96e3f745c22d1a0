import { and, eq, isNull } from "drizzle-orm";
import fc from "fast-check";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { printCel } from "@/core/condition/cel-print";
import { database } from "@/db/connection";
import { timeboxProject, item, ownField, release, sprint } from "@/db/schema";
import { askedItems } from "@/server/condition/asked-items";
import { compileCondition } from "@/server/condition/compile";
import { loadVocabulary } from "@/server/condition/vocabulary";
import { snapshotOf } from "@/server/item/rows";
import { anyCondition, anyOutside, anyOwn, OWN_FIELDS } from "../core/setup/conditions";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const scope = and(eq(item.projectId, "gate"), isNull(item.withdrawnAt));
const GATES = { ownerKind: "project", ownerId: "gate", zone: "Europe/London" } as const;
let asked: AskedItem[];
let vocabulary: Vocabulary;

beforeAll(async () => {
  const db = database();
  await db.insert(ownField).values(OWN_FIELDS.map((f) => ({ ...f, projectId: "gate" })));
  await db.insert(sprint).values(
    [1, 2].map((n) => ({
      id: `sp${n}`,
      ...GATES,
      name: `Sprint ${n}`,
      goal: "",
      startsOn: `2026-0${n}-02`,
      endsOn: `2026-0${n}-15`,
    })),
  );
  await db.insert(release).values({ id: "r1", ...GATES, name: "Spring" });
  await db.insert(timeboxProject).values([
    { box: "sprint", boxId: "sp1", projectId: "gate" },
    { box: "sprint", boxId: "sp2", projectId: "gate" },
    { box: "release", boxId: "r1", projectId: "gate" },
  ]);
  // Every item gets values for what the demo leaves empty, chosen by a fixed seed.
  const ids = (await db.select({ id: item.id }).from(item).where(scope).orderBy(item.number)).map(
    (r) => r.id,
  );
  const values = fc.sample(
    fc.record({
      own: anyOwn,
      outside: anyOutside,
      labels: fc.subarray(["ticket", "Gate", "a"]),
      sprintId: fc.constantFrom(null, "sp1", "sp2"),
      releaseId: fc.constantFrom(null, "r1"),
    }),
    { seed: 7, numRuns: ids.length },
  );
  for (const [i, id] of ids.entries())
    await db
      .update(item)
      .set(JSON.parse(JSON.stringify(values[i])))
      .where(eq(item.id, id));
  asked = await askedItems(
    db,
    (await db.select().from(item).where(scope)).map(snapshotOf),
    OWN_FIELDS,
  );
  vocabulary = await loadVocabulary(db, "gate");
}, 180_000);

test("in memory and in SQL a condition means the same items, whatever it is", async () => {
  expect(asked.length).toBeGreaterThan(300);
  let telling = 0;
  await fc.assert(
    fc.asyncProperty(
      anyCondition(vocabulary),
      fc.constantFrom<Asker>(
        {
          personId: "oskar",
          teamIds: ["quayside"],
          now: Date.now(),
          zone: "Europe/London",
          sprints: { current: "sp1", next: "sp2", previous: null },
        },
        { personId: null, teamIds: [], now: Date.now() - 3 * 86_400_000, zone: "Pacific/Auckland" },
      ),
      async (condition, asker) => {
        const inMemory = asked
          .filter((a) => holds(condition, a, asker))
          .map((a) => a.item.id)
          .sort();
        const inSql = (
          await database()
            .select({ id: item.id })
            .from(item)
            .where(and(scope, compileCondition(condition, { ...asker, ownFields: OWN_FIELDS })))
        )
          .map((r) => r.id)
          .sort();
        expect({ condition: printCel(condition, vocabulary), ids: inSql }).toEqual({
          condition: printCel(condition, vocabulary),
          ids: inMemory,
        });
        if (inSql.length > 0 && inSql.length < asked.length) telling += 1;
      },
    ),
    { numRuns: 400 },
  );
  // Most conditions are about some of the items, or the comparison would say little.
  expect(telling).toBeGreaterThan(120);
}, 180_000);

test("text with markup, quotes and patterns is compared as it is, never run", async () => {
  const asker: Asker = { personId: null, teamIds: [], now: Date.now(), zone: "UTC" };
  for (const value of ["'; drop table item; --", "%", "_", "\\", "$1"]) {
    const rows = await database()
      .select({ id: item.id })
      .from(item)
      .where(
        and(
          scope,
          compileCondition({ kind: "compare", fact: "title", op: "contains", value }, asker),
        ),
      );
    expect(rows.length).toBe(asked.filter((a) => a.item.title.includes(value)).length);
  }
});
