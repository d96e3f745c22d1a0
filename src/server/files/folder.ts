import { randomBytes } from "node:crypto";
import { mkdir, open, readFile, rename, rm } from "node:fs/promises";
import path from "node:path";

/*
 * The folder in which files lie, each under the digest of its bytes. Several processes share it:
 * a file is written beside its place and put there in one step, so that nobody reads half of one.
 */

const folder = () => path.resolve(process.env.FILES_DIR ?? ".data/files");

const placeOf = (sha256: string) => path.join(folder(), sha256.slice(0, 2), sha256.slice(2));

/** Writes bytes to their place and makes sure that they are on the disk. */
export async function writeBytes(sha256: string, content: Buffer): Promise<void> {
  const place = placeOf(sha256);
  await mkdir(path.dirname(place), { recursive: true });
  const beside = `${place}.${randomBytes(6).toString("hex")}`;
  const file = await open(beside, "wx");
  try {
    await file.writeFile(content);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(beside, place);
}

/** Null where they are not there. */
export async function readBytesOf(sha256: string): Promise<Buffer | null> {
  try {
    return await readFile(placeOf(sha256));
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === "ENOENT") return null;
    throw error;
  }
}

export const removeBytes = (sha256: string): Promise<void> => rm(placeOf(sha256), { force: true });
