import { eq, sql } from "drizzle-orm";
import { database, type Reader, type Transaction } from "@/db/connection";
import { installation, person } from "@/db/schema";

export type World = "demo" | "own";

/**
 * What the database was begun with; decided once, so that no setting shows the demo's password over
 * people of one's own.
 */
export async function worldOf(reader: Reader = database()): Promise<World> {
  const [row] = await reader
    .select({ world: installation.world })
    .from(installation)
    .where(eq(installation.id, 1));
  return row?.world ?? "own";
}

export async function beginWorld(tx: Reader, world: World, now = Date.now()): Promise<void> {
  await tx.insert(installation).values({ id: 1, world, begunAt: now }).onConflictDoNothing();
}

/** Whether anybody has an account yet. */
export async function nobodyYet(reader: Reader = database()): Promise<boolean> {
  const [anybody] = await reader.select({ id: person.id }).from(person).limit(1);
  return anybody === undefined;
}

/** Who may make an account by themselves: the first person alone, everybody, or nobody. */
export type SignUp = "first" | "open" | "closed";

export function signUpSetting(setting = process.env.ZIGZAG_SIGN_UP): SignUp {
  return setting === "open" || setting === "closed" ? setting : "first";
}

/** Whether somebody may make an account now. */
export async function mayMakeAccount(reader: Reader = database()): Promise<boolean> {
  const setting = signUpSetting();
  return setting === "open" || (setting === "first" && (await nobodyYet(reader)));
}

/**
 * One account after the other: two that come at once are not both the first, and do not both take a
 * name.
 */
export async function lockAccounts(tx: Transaction): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('accounts', 0))`);
}
