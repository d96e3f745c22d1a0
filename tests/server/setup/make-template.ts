import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { Client } from "pg";
import { closeDatabase } from "@/db/connection";
import { migrateDatabase } from "@/db/migrate";
import { isEmpty, loadDemo } from "@demo/load";
import { serverUrl, TEMPLATE } from "./server-url";

/** Makes the database that every test file copies: the newest schema with the demo world in it. */
async function makeTemplate(): Promise<void> {
  const server = new Client({ connectionString: serverUrl("postgres") });
  await server.connect();
  try {
    const { rows } = await server.query("select 1 from pg_database where datname = $1", [TEMPLATE]);
    if (rows.length === 0) await server.query(`create database ${TEMPLATE}`);
  } finally {
    await server.end();
  }
  process.env.DATABASE_URL = serverUrl(TEMPLATE);
  await migrateDatabase(process.env.DATABASE_URL);
  const repositories = mkdtempSync(path.join(tmpdir(), "zigzag-code-"));
  if (await isEmpty()) await loadDemo(repositories);
  rmSync(repositories, { recursive: true });
  await closeDatabase();
}

void makeTemplate();
