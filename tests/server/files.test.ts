import { existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { database, transact } from "@/db/connection";
import { reportFile, storedFile } from "@/db/schema";
import { digestOf, keepFile, moveToFolder, readKept, sweepFiles } from "@/server/files/store";
import { privateFile } from "@/server/intake/private-page";
import { refusalOf } from "./setup/board";
import { sent } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

let folder = "";
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), "zigzag-files-"));
  process.env.FILES_DIR = folder;
});
afterAll(() => {
  delete process.env.FILES_DIR;
  rmSync(folder, { recursive: true });
});

const inFolder = () =>
  readdirSync(folder, { recursive: true, encoding: "utf8" }).filter((f) => f.length > 60);
const NOTE = (words: string) => ({ name: "note.txt", content: Buffer.from(words) });

/*
 * FIPS 180-4, "Secure Hash Standard", the worked example of SHA-256 for "abc".
 */
test("bytes are known by their SHA-256", () => {
  expect(digestOf(Buffer.from("abc"))).toBe(
    "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad",
  );
});

test("the same file with two reports lies there once, and each serves it under its own rights", async () => {
  const [one, two] = [
    await sent({ title: ["One"] }, { files: [NOTE("It hums.")] }),
    await sent({ title: ["Two"] }, { files: [NOTE("It hums."), NOTE("It hisses.")] }),
  ];
  expect(inFolder()).toHaveLength(2);
  const [file] = await database().select().from(reportFile).where(eq(reportFile.reportId, one.id));
  expect((await privateFile(one.token, file.id)).content.toString()).toBe("It hums.");
  // The other report has the same bytes, but not this file.
  expect(await refusalOf(privateFile(two.token, file.id))).toBe("not found");
});

test("what is said of a file that is lost is that there is none", async () => {
  const row = await sent({ title: ["Lost"] }, { files: [NOTE("Gone with the tide.")] });
  const [file] = await database().select().from(reportFile).where(eq(reportFile.reportId, row.id));
  rmSync(path.join(folder, file.sha256.slice(0, 2), file.sha256.slice(2)));
  expect(await refusalOf(privateFile(row.token, file.id))).toBe("not found");
});

test("files of before there was a folder are read, and moved there", async () => {
  const content = Buffer.from("From long ago.");
  const sha256 = digestOf(content);
  await database()
    .insert(storedFile)
    .values({ sha256, size: content.length, at: Date.now(), content });
  expect((await readKept(database(), sha256))!.toString()).toBe("From long ago.");
  expect(await moveToFolder()).toBe(1);
  expect(await moveToFolder()).toBe(0);
  const [row] = await database().select().from(storedFile).where(eq(storedFile.sha256, sha256));
  expect(row.content).toBeNull();
  expect((await readKept(database(), sha256))!.toString()).toBe("From long ago.");
});

test("what nothing hangs on is swept away after a day, and nothing else", async () => {
  const keep = (words: string, at: number) =>
    transact((tx) => keepFile(tx, Buffer.from(words), at));
  const now = Date.now();
  const old = await keep("Nobody names me.", now - 2 * DAY);
  const young = await keep("Somebody is about to.", now);
  const again = await keep("Old, and kept again.", now - 2 * DAY);
  await keep("Old, and kept again.", now);
  const failing = transact(async (tx) => {
    await keepFile(tx, Buffer.from("Never named."), now);
    throw new Error("no");
  });
  await expect(failing).rejects.toThrow("no");
  const named = (await database().select().from(reportFile)).map((f) => f.sha256);
  expect(await sweepFiles(now)).toBe(1);
  const isThere = (sha256: string) =>
    existsSync(path.join(folder, sha256.slice(0, 2), sha256.slice(2)));
  expect([old, young, again].map(isThere)).toEqual([false, true, true]);
  const left = (await database().select().from(storedFile)).map((f) => f.sha256);
  expect(left).toEqual(expect.arrayContaining([...new Set(named)]));
});
