import { Client } from "pg";
import { closeDatabase, databaseUrl, isUnreachable, sqlState } from "@/db/connection";
import { migrateDatabase } from "@/db/migrate";
import { isEmpty, loadDemo } from "@demo/load";

/** Makes the database if it is missing, brings its schema up to date, and loads the demo into an empty one. */
async function prepare(): Promise<void> {
  await ensureDatabase(databaseUrl());
  await migrateDatabase(databaseUrl());
  if (process.argv[2] === "demo" && (await isEmpty())) {
    process.stdout.write("Loading the demo world: ");
    const { items, events, reports } = await loadDemo();
    console.log(`${items} items, ${events} events, ${reports} reports`);
  }
  await closeDatabase();
}

async function ensureDatabase(url: string): Promise<void> {
  const name = new URL(url).pathname.slice(1);
  const probe = new Client({ connectionString: url });
  try {
    await probe.connect();
  } catch (error) {
    if (sqlState(error) !== "3D000") throw error;
    const server = new Client({ connectionString: url.replace(/\/[^/]*$/, "/postgres") });
    await server.connect();
    await server.query(`create database ${server.escapeIdentifier(name)}`);
    await server.end();
  } finally {
    await probe.end().catch(() => {});
  }
}

prepare().catch((error) => {
  console.error(isUnreachable(error) ? "The database cannot be reached." : error);
  process.exit(1);
});
