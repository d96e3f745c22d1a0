import { and } from "drizzle-orm";
import fc from "fast-check";
import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { PromiseBand } from "@/core/item/promise-band";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { printCel } from "@/core/condition/cel-print";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { compileCondition } from "@/server/condition/compile";
import { anyCondition, OWN_FIELDS } from "../core/setup/conditions";
import { FILLED, fillProject } from "./setup/filled-project";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

let asked: AskedItem[];
let vocabulary: Vocabulary;
let promises: Map<string, PromiseBand>;

beforeAll(async () => {
  ({ asked, vocabulary, promises } = await fillProject());
});

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
            .where(
              and(
                FILLED,
                compileCondition(condition, { ...asker, ownFields: OWN_FIELDS, promises }),
              ),
            )
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
});

test("text with markup, quotes and patterns is compared as it is, never run", async () => {
  const asker: Asker = { personId: null, teamIds: [], now: Date.now(), zone: "UTC" };
  for (const value of ["'; drop table item; --", "%", "_", "\\", "$1"]) {
    const rows = await database()
      .select({ id: item.id })
      .from(item)
      .where(
        and(
          FILLED,
          compileCondition({ kind: "compare", fact: "title", op: "contains", value }, asker),
        ),
      );
    expect(rows.length).toBe(asked.filter((a) => a.item.title.includes(value)).length);
  }
});
