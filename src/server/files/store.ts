import { createHash } from "node:crypto";
import { and, eq, isNotNull, lt, notExists, sql, type SQL } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { database, type Reader, type Transaction } from "@/db/connection";
import {
  itemFile,
  personPicture,
  reportFile,
  shownPicture,
  storedFile,
  testPicture,
} from "@/db/schema";
import { readBytesOf, removeBytes, writeBytes } from "./folder";

/** The digest by which bytes are known: SHA-256 in hexadecimal figures. */
export const digestOf = (content: Buffer): string =>
  createHash("sha256").update(content).digest("hex");

/**
 * Keeps a file. Its bytes are on the disk before anything names it: a transaction that fails leaves
 * bytes that nobody names, and those are swept away later.
 * @returns its digest
 */
export async function keepFile(tx: Transaction, content: Buffer, now: number): Promise<string> {
  const sha256 = digestOf(content);
  await writeBytes(sha256, content);
  await tx
    .insert(storedFile)
    .values({ sha256, size: content.length, at: now })
    // Whoever keeps what is there already makes it young again, so that no sweep takes it.
    .onConflictDoUpdate({ target: storedFile.sha256, set: { at: now } });
  return sha256;
}

/** The bytes of a kept file; null where they have been lost. */
export async function readKept(reader: Reader, sha256: string): Promise<Buffer | null> {
  const onDisk = await readBytesOf(sha256);
  if (onDisk) return onDisk;
  const [row] = await reader
    .select({ content: storedFile.content })
    .from(storedFile)
    .where(eq(storedFile.sha256, sha256));
  return row?.content ?? null;
}

/** Moves what the database still holds to the folder, one file at a time. @returns how many */
export async function moveToFolder(): Promise<number> {
  for (let moved = 0; ; moved++) {
    const [row] = await database()
      .select()
      .from(storedFile)
      .where(isNotNull(storedFile.content))
      .limit(1);
    if (!row) return moved;
    await writeBytes(row.sha256, row.content!);
    await database()
      .update(storedFile)
      .set({ content: null })
      .where(eq(storedFile.sha256, row.sha256));
  }
}

/** Throws bytes away at once, unless something else hangs on them. */
export async function throwAway(sha256: string): Promise<void> {
  const db = database();
  const gone = await db
    .delete(storedFile)
    .where(and(eq(storedFile.sha256, sha256), ...unnamed(db)))
    .returning({ sha256: storedFile.sha256 });
  if (gone.length > 0) await removeBytes(sha256);
}

/** Nothing hangs on a file, as conditions on the rows of `stored_file`. */
function unnamed(db: Reader): SQL[] {
  const one = { one: sql`1` };
  const inReports = db.select(one).from(reportFile).where(eq(reportFile.sha256, storedFile.sha256));
  const onItems = db.select(one).from(itemFile).where(eq(itemFile.sha256, storedFile.sha256));
  const inTests = db.select(one).from(testPicture).where(eq(testPicture.sha256, storedFile.sha256));
  const ofPeople = db
    .select(one)
    .from(personPicture)
    .where(eq(personPicture.sha256, storedFile.sha256));
  const isShown = db
    .select(one)
    .from(shownPicture)
    .where(eq(shownPicture.sha256, storedFile.sha256));
  return [inReports, onItems, inTests, ofPeople, isShown].map((named) => notExists(named));
}

/** A file that nothing hangs on is kept so long: it may be about to be named. */
const UNNAMED_KEPT = DAY;

/** Throws away files that nothing hangs on any more. @returns how many */
export async function sweepFiles(now = Date.now()): Promise<number> {
  const db = database();
  const gone = await db
    .delete(storedFile)
    .where(and(lt(storedFile.at, now - UNNAMED_KEPT), ...unnamed(db)))
    .returning({ sha256: storedFile.sha256 });
  for (const { sha256 } of gone) await removeBytes(sha256);
  return gone.length;
}
