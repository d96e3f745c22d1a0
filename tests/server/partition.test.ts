import { sql } from "drizzle-orm";
import { database } from "@/db/connection";
import { migrateDatabase } from "@/db/migrate";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

/**
 * What grows with time, and how it would be split where one table is not enough: what belongs to an
 * item or a report by the hash of its id, what is told by its number.
 */
const HISTORIES = [
  ["item_event", "hash (item_id)"],
  ["item_text", "hash (item_id)"],
  ["stay", "hash (item_id)"],
  ["flow_passage", "hash (item_id)"],
  ["block", "hash (item_id)"],
  ["comment", "hash (item_id)"],
  ["report_event", "hash (report_id)"],
  ["domain_event", "range (id)"],
] as const;

const count = async (table: string) =>
  Number((await database().execute(sql.raw(`select count(*) from ${table}`))).rows[0].count);

test.each(HISTORIES)(
  "a trial: %s is split by %s with all its keys, and holds the same rows",
  async (table, by) => {
    const run = (text: string) => database().execute(sql.raw(text));
    await migrateDatabase(process.env.DATABASE_URL!);
    // Every key and index comes along: one without the dividing column would be refused here.
    await run(`create table ${table}_split (like ${table} including all) partition by ${by}`);
    const parts = by.startsWith("hash")
      ? [0, 1, 2, 3].map((n) => `with (modulus 4, remainder ${n})`)
      : ["from (minvalue) to (3)", "from (3) to (maxvalue)"];
    for (const [n, bounds] of parts.entries())
      await run(`create table ${table}_${n} partition of ${table}_split for values ${bounds}`);
    await run(`insert into ${table}_split select * from ${table}`);
    const rows = await count(table);
    expect(await count(`${table}_split`)).toBe(rows);
    const { rows: differing } = await run(
      `select count(*)::int as n from (table ${table} except table ${table}_split) d`,
    );
    expect(differing[0].n).toBe(0);
    if (!by.startsWith("hash")) return;
    expect(rows).toBeGreaterThan(20);
    for (const n of parts.keys()) expect(await count(`${table}_${n}`)).toBeGreaterThan(0);
  },
);
