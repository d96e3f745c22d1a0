import { sql } from "drizzle-orm";
import { problemOf } from "@/app/problem";
import { conditionSchema, MOST_COMPARISONS, type Condition } from "@/core/condition/condition";
import { closeDatabase, database, tookTooLong } from "@/db/connection";
import { item } from "@/db/schema";
import { compileCondition } from "@/server/condition/compile";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const wasIn = (n: number): Condition[] =>
  Array.from({ length: n }, (_, i) => ({
    kind: "compare",
    fact: "everIn",
    op: "contains",
    value: `state ${i}`,
  }));
const nested = (n: number): Condition => ({
  kind: "any",
  of: Array.from({ length: Math.ceil(n / 50) }, (_, i) => ({
    kind: "any",
    of: wasIn(Math.min(50, n - i * 50)),
  })),
});

describe("what takes too long", () => {
  beforeAll(async () => {
    await closeDatabase();
    process.env.DATABASE_STATEMENT_MS = "300";
  });
  afterAll(async () => {
    await closeDatabase();
    delete process.env.DATABASE_STATEMENT_MS;
  });

  test("is stopped by the database, said in words, and keeps nobody else waiting", async () => {
    const slow = Promise.allSettled(
      Array.from({ length: 30 }, () => database().execute(sql`select pg_sleep(20)`)),
    );
    const ended = await slow;
    for (const end of ended)
      expect(end.status === "rejected" && tookTooLong(end.reason)).toBe(true);
    const answer = problemOf((ended[0] as PromiseRejectedResult).reason);
    expect([answer.status, ((await answer.json()) as { title: string }).title]).toEqual([
      422,
      "This took too long and was stopped.",
    ]);
    expect((await database().execute(sql`select 1 as one`)).rows).toEqual([{ one: 1 }]);
  });
});

test("a condition has a bounded number of comparisons, wherever they stand in it", () => {
  expect(conditionSchema.safeParse(nested(MOST_COMPARISONS)).success).toBe(true);
  const tooMany = conditionSchema.safeParse(nested(MOST_COMPARISONS + 1));
  expect(tooMany.success ? "taken" : tooMany.error.issues[0].message).toMatch(
    /at most 100 comparisons/,
  );
  expect(conditionSchema.safeParse({ kind: "not", of: nested(MOST_COMPARISONS + 1) }).success).toBe(
    false,
  );
});

test("the largest condition is asked as one plan, without being compiled first", async () => {
  const asker = { personId: null, teamIds: [], now: 0, zone: "UTC" };
  const query = database()
    .select({ id: item.id })
    .from(item)
    .where(compileCondition(nested(MOST_COMPARISONS), asker));
  const plan = (await database().execute(sql`explain (analyze, timing off) ${query}`)).rows
    .map((r) => Object.values(r)[0])
    .join("\n");
  expect(plan).toContain("Seq Scan on item");
  expect(plan).not.toContain("JIT");
});
