import path from "node:path";
import { Client } from "pg";
import { beginWorld, nobodyYet, signUpSetting, worldOf } from "@/server/people/installation";
import { closeDatabase, database, databaseUrl, isUnreachable, sqlState } from "@/db/connection";
import { migrateDatabase } from "@/db/migrate";
import { moveToFolder } from "@/server/files/store";
import { isEmpty, loadDemo } from "@demo/load";
import { DEMO_PASSWORD, mailOf, PEOPLE } from "@demo/people";

/**
 * Makes the database if it is missing, brings its schema up to date, and loads the demo into an
 * empty one.
 */
async function prepare(): Promise<void> {
  await ensureDatabase(databaseUrl());
  await migrateDatabase(databaseUrl());
  await moveToFolder();
  const demo = process.argv[2] === "demo";
  if (demo && (await isEmpty())) {
    process.stdout.write("Loading the demo world: ");
    const { items, events, reports } = await loadDemo(
      path.join(process.env.ZIGZAG_DATA || ".data", "code"),
    );
    console.log(`${items} items, ${events} events, ${reports} reports`);
  }
  await beginWorld(database(), "own");
  console.log(await sayWhich(demo));
  if ((await worldOf()) === "demo") sayWho();
  await closeDatabase();
}

/** Which way it runs: with what it was begun, and who may make an account. */
async function sayWhich(demo: boolean): Promise<string> {
  const isDemo = (await worldOf()) === "demo";
  const world = isDemo
    ? "With the demo world."
    : demo
      ? "This database was begun without the demo; it is not loaded into it."
      : "Without the demo.";
  const setting = signUpSetting();
  if (setting === "open")
    return `${world} Anybody who reaches it may make an account (ZIGZAG_SIGN_UP=open).`;
  if (setting === "first" && (await nobodyYet()))
    return `${world} The first person to make an account looks after it; then sign-up is closed.`;
  return `${world} Accounts are made by administrators.`;
}

const SHOWN = ["ines", "tomas", "noor", "lukas", "greta", "arthur"];

function sayWho(): void {
  console.log(`Sign in with one click on a person, or with password ${DEMO_PASSWORD}:`);
  for (const p of PEOPLE.filter((p) => SHOWN.includes(p.id)))
    console.log(`  ${mailOf(p).padEnd(36)} ${p.calling}`);
  console.log(`  and ${PEOPLE.length - SHOWN.length} more on the sign-in page`);
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
