import { and, eq, isNull } from "drizzle-orm";
import fc from "fast-check";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { printCel } from "@/core/condition/cel-print";
import { database } from "@/db/connection";
import { item, itemType, person, state, team } from "@/db/schema";
import { askedItems } from "@/server/condition/asked-items";
import { compileCondition } from "@/server/condition/compile";
import { snapshotOf } from "@/server/item/rows";
import { anyCondition } from "../core/setup/conditions";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const scope = and(eq(item.projectId, "gate"), isNull(item.withdrawnAt));
let asked: AskedItem[];
let vocabulary: Vocabulary;

beforeAll(async () => {
  const db = database();
  asked = await askedItems(db, (await db.select().from(item).where(scope)).map(snapshotOf));
  vocabulary = {
    types: await db.select({ id: itemType.id, name: itemType.name }).from(itemType).where(eq(itemType.projectId, "gate")),
    states: (await db.select({ id: state.id, name: state.name }).from(state)).map((s) => ({ ...s, workflowName: "" })),
    people: await db.select({ id: person.id, name: person.name }).from(person),
    teams: await db.select().from(team),
  };
});

test("in memory and in SQL a condition means the same items, whatever it is", async () => {
  expect(asked.length).toBeGreaterThan(300);
  let telling = 0;
  await fc.assert(
    fc.asyncProperty(anyCondition(vocabulary), fc.constantFrom<Asker>(
      { personId: "oskar", teamIds: ["quayside"], now: Date.now(), zone: "Europe/London" },
      { personId: null, teamIds: [], now: Date.now() - 3 * 86_400_000, zone: "Pacific/Auckland" },
    ), async (condition, asker) => {
      const inMemory = asked.filter((a) => holds(condition, a, asker)).map((a) => a.item.id).sort();
      const inSql = (await database().select({ id: item.id }).from(item).where(and(scope, compileCondition(condition, asker)))).map((r) => r.id).sort();
      expect({ condition: printCel(condition, vocabulary), ids: inSql }).toEqual({ condition: printCel(condition, vocabulary), ids: inMemory });
      if (inSql.length > 0 && inSql.length < asked.length) telling += 1;
    }),
    { numRuns: 400 },
  );
  // Most conditions are about some of the items, or the comparison would say little.
  expect(telling).toBeGreaterThan(120);
}, 120_000);

test("text with markup, quotes and patterns is compared as it is, never run", async () => {
  const asker: Asker = { personId: null, teamIds: [], now: Date.now(), zone: "UTC" };
  for (const value of ["'; drop table item; --", "%", "_", "\\", "$1"]) {
    const rows = await database().select({ id: item.id }).from(item).where(and(scope, compileCondition({ kind: "compare", fact: "title", op: "contains", value }, asker)));
    expect(rows.length).toBe(asked.filter((a) => a.item.title.includes(value)).length);
  }
});
