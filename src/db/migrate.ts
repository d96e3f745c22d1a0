import path from "node:path";
import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { Client } from "pg";

const MIGRATION_LOCK = 7_214_001;

/** Brings a database to the newest schema. Two processes that start together do not do it twice. */
export async function migrateDatabase(url: string): Promise<void> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    await client.query("select pg_advisory_lock($1)", [MIGRATION_LOCK]);
    await client.query("set client_min_messages = warning");
    await migrate(drizzle(client), {
      migrationsFolder: path.join(process.cwd(), "src/db/migrations"),
    });
  } finally {
    await client.end();
  }
}
