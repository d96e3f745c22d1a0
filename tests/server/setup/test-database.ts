import { randomBytes } from "node:crypto";
import { Client } from "pg";
import { closeDatabase } from "@/db/connection";
import { serverUrl, TEMPLATE } from "./server-url";

const COPY_LOCK = 55_001;

async function onServer(work: (client: Client) => Promise<unknown>): Promise<void> {
  const client = new Client({ connectionString: serverUrl("postgres") });
  await client.connect();
  try {
    await work(client);
  } finally {
    await client.end();
  }
}

/**
 * A database that only one test file uses: a copy of the template with the demo world, or one with
 * nothing in it.
 */
export async function createTestDatabase(
  template = TEMPLATE,
): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `zigzag_${randomBytes(6).toString("hex")}`;
  await onServer(async (client) => {
    await client.query("select pg_advisory_lock($1)", [COPY_LOCK]);
    await client.query(`create database ${name} template ${template}`);
  });
  return {
    url: serverUrl(name),
    drop: () => onServer((client) => client.query(`drop database ${name} with (force)`)),
  };
}

/** Without tables, as PostgreSQL makes it. */
export const BARE = "template0";

/** Gives a test file a database of its own, as the one that the use cases work on. */
export function givenTestDatabase(template = TEMPLATE): void {
  let drop: () => Promise<void>;
  beforeAll(async () => {
    const made = await createTestDatabase(template);
    drop = made.drop;
    process.env.DATABASE_URL = made.url;
  });
  afterAll(async () => {
    await closeDatabase();
    await drop();
  });
}
