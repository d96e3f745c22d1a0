import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import path from "node:path";
import { eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { LARGEST_ITEM_FILE, MOST_ITEM_FILES } from "@/core/item/item-file";
import { database } from "@/db/connection";
import { alert, item, itemFile, storedFile } from "@/db/schema";
import { readKept, sweepFiles } from "@/server/files/store";
import { checkItems } from "@/server/item/check";
import { emptyItemFile } from "@/server/item/empty-file";
import { addItemFile, itemFileFor } from "@/server/item/files";
import { readItem } from "@/server/item/read";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf, send } from "./setup/board";
import { settle } from "./setup/events";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const PNG = readFileSync(path.join(__dirname, "../reference/pictures/small.png"));
const keyOf = async (id: string) => {
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return `TIX-${number}`;
};
const put = (
  viewer: Viewer,
  key: string,
  content: Buffer,
  name = "a.png",
  id: string = randomUUID(),
) => addItemFile(viewer, key, { id, name, content });
const namesOn = async (viewer: Viewer, key: string) =>
  (await readItem(viewer, key)).files.map(({ name }) => name);

test("a file is put to an item once, by its bytes and not by its name, and stands in its history", async () => {
  const id = await itemIn(NOOR, "Photographs of the quay");
  const key = await keyOf(id);
  const fileId = randomUUID();
  const one = await put(NOOR, key, PNG, "../../quay\u202egnp.exe", fileId);
  expect(one).toMatchObject({
    name: "quaygnp.exe",
    mediaType: "image/png",
    size: PNG.length,
    picture: { width: 37, height: 21 },
    by: "Noor Bakri",
  });
  await put(NOOR, key, PNG, "again", fileId);
  expect(await namesOn(IVO, key)).toEqual(["quaygnp.exe"]);
  const text = await put(IVO, key, Buffer.from("The tide is late.\n"), "log.txt");
  expect(text).toMatchObject({ mediaType: "text/plain", picture: null });
  const page = await put(IVO, key, Buffer.from("<script>alert(1)</script>"), "page.html");
  expect(page.mediaType).toBe("application/octet-stream");
  const { history } = await readItem(IVO, key);
  expect(history.map(({ words }) => words)).toEqual(
    expect.arrayContaining(["added the file quaygnp.exe", "added the file log.txt"]),
  );
  expect((await itemFileFor(OSKAR, key, fileId)).content.equals(PNG)).toBe(true);
  expect((await checkItems()).findings).toEqual([]);
});

test("it is taken off and put back; what is off is read by nobody", async () => {
  const id = await itemIn(NOOR, "A chart");
  const key = await keyOf(id);
  const { id: fileId } = await put(NOOR, key, PNG);
  await send(IVO, id, { kind: "remove file", fileId });
  expect(await namesOn(NOOR, key)).toEqual([]);
  expect(await refusalOf(itemFileFor(NOOR, key, fileId))).toBe("not found");
  expect(await refusalOf(send(IVO, id, { kind: "remove file", fileId }))).toBe("invalid");
  await send(IVO, id, { kind: "put file back", fileId });
  expect(await namesOn(NOOR, key)).toEqual(["a.png"]);
  const other = await itemIn(NOOR, "Another chart");
  expect(await refusalOf(send(IVO, other, { kind: "remove file", fileId }))).toBe("not found");
  expect(await refusalOf(put(NOOR, await keyOf(other), PNG, "x", fileId))).toBe("not found");
});

test("nothing, too much, too many and a bomb are dealt with in words", async () => {
  const id = await itemIn(NOOR, "A heap");
  const key = await keyOf(id);
  expect(await refusalOf(put(NOOR, key, Buffer.alloc(0)))).toBe("invalid");
  expect(await refusalOf(put(NOOR, key, Buffer.alloc(LARGEST_ITEM_FILE + 1)))).toBe("invalid");
  // A head that asks for ten thousand million pixels.
  const bomb = Buffer.from(PNG);
  bomb.writeUInt32BE(100_000, 16);
  bomb.writeUInt32BE(100_000, 20);
  expect((await put(NOOR, key, bomb, "bomb.png")).picture).toBeNull();
  const rows = Array.from({ length: MOST_ITEM_FILES - 1 }, (_, i) => i);
  const [kept] = await database().select().from(itemFile).where(eq(itemFile.itemId, id));
  await database()
    .insert(itemFile)
    .values(rows.map((n) => ({ ...kept, id: randomUUID(), name: `${n}.png` })));
  expect(await refusalOf(put(NOOR, key, PNG))).toBe("invalid");
});

test("whoever may not see the item finds no file of it; whoever looks on puts none to it", async () => {
  const id = await itemIn(INES, "Not for all");
  const key = await keyOf(id);
  const { id: fileId } = await put(INES, key, PNG);
  expect(await refusalOf(put(ARTHUR, key, PNG))).toBe("not allowed");
  const [row] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, {
    kind: "edit",
    seenVersion: row.version,
    changes: { restricted: true },
  });
  expect(await refusalOf(itemFileFor(NOOR, key, fileId))).toBe("not found");
  expect(await refusalOf(put(NOOR, key, PNG))).toBe("not found");
  expect(await refusalOf(itemFileFor(INES, key, "not-an-id"))).toBe("not found");
});

test("bytes stay as long as a file of an item has them, also one that is taken off", async () => {
  const id = await itemIn(NOOR, "Kept");
  const content = Buffer.from(`Kept ${randomUUID()}`);
  const { id: fileId } = await put(NOOR, await keyOf(id), content, "kept.txt");
  await send(NOOR, id, { kind: "remove file", fileId });
  await sweepFiles(Date.now() + 2 * DAY);
  const [row] = await database().select().from(itemFile).where(eq(itemFile.id, fileId));
  const bytes = () =>
    database().select().from(storedFile).where(eq(storedFile.sha256, row.sha256!));
  expect(await bytes()).toHaveLength(1);
  await database().delete(itemFile).where(eq(itemFile.id, fileId));
  await sweepFiles(Date.now() + 2 * DAY);
  expect(await bytes()).toHaveLength(0);
});

test("whoever has the item hears of a file", async () => {
  const id = await itemIn(NOOR, "A plan");
  const [row] = await database().select().from(item).where(eq(item.id, id));
  await send(NOOR, id, { kind: "edit", seenVersion: row.version, changes: { assigneeId: "ivo" } });
  await settle();
  await database().delete(alert);
  await put(NOOR, await keyOf(id), PNG);
  await settle();
  const told = await database().select().from(alert).where(eq(alert.itemId, id));
  expect(told.map(({ personId }) => personId)).toEqual(["ivo"]);
});

test("a lead removes a file for good: its bytes and its name, from the history too", async () => {
  const id = await itemIn(NOOR, "A list of doors");
  const key = await keyOf(id);
  const content = Buffer.from(`The code is ${randomUUID()}`);
  const { id: fileId } = await put(NOOR, key, content, "code of the vault.txt");
  const other = await itemIn(NOOR, "The same list");
  const { id: same } = await put(NOOR, await keyOf(other), content, "list.txt");
  const empty = (viewer: Viewer, file = fileId, commandId = randomUUID()) =>
    emptyItemFile(viewer, key, { fileId: file, commandId, why: "It holds a code." });
  expect(await refusalOf(empty(NOOR))).toBe("not allowed");
  expect(await refusalOf(empty(INES, same))).toBe("not found");
  const [{ sha256 }] = await database().select().from(itemFile).where(eq(itemFile.id, fileId));
  const commandId = randomUUID();
  await empty(INES, fileId, commandId);
  await empty(INES, fileId, commandId);
  expect(await refusalOf(empty(INES))).toBe("invalid");
  expect(await namesOn(INES, key)).toEqual([]);
  expect(JSON.stringify(await readItem(INES, key))).not.toContain("vault");
  expect(await refusalOf(send(INES, id, { kind: "put file back", fileId }))).toBe("invalid");
  // The other item still has the same bytes; without it they are gone at once.
  expect((await itemFileFor(NOOR, await keyOf(other), same)).content.equals(content)).toBe(true);
  const keyOther = await keyOf(other);
  await emptyItemFile(INES, keyOther, { fileId: same, commandId: randomUUID(), why: "Too." });
  const left = await database().select().from(storedFile).where(eq(storedFile.sha256, sha256!));
  expect(left).toEqual([]);
  expect(await readKept(database(), sha256!)).toBeNull();
  expect((await checkItems()).findings).toEqual([]);
});

test("a remark on a place of a file is about that file, numbered, and outlives it", async () => {
  const id = await itemIn(NOOR, "Where the rail is loose");
  const key = await keyOf(id);
  const [one, two] = [await put(NOOR, key, PNG, "one.png"), await put(NOOR, key, PNG, "two.png")];
  const remark = (fileId: string, body: string) =>
    send(IVO, id, { kind: "comment", body, spot: { fileId, page: null, x: 0.25, y: 1 } });
  await remark(one.id, "Here.");
  await remark(two.id, "Not here.");
  await remark(one.id, "And here.");
  const spots = async () =>
    (await readItem(NOOR, key)).talk.comments.map(
      ({ spot }) => spot && [spot.number, spot.fileName],
    );
  expect(await spots()).toEqual([
    [1, "one.png"],
    [1, "two.png"],
    [2, "one.png"],
  ]);
  const elsewhere = await put(NOOR, await keyOf(await itemIn(NOOR, "Another")), PNG);
  expect(await refusalOf(remark(elsewhere.id, "Of another item."))).toBe("not found");
  await send(NOOR, id, { kind: "remove file", fileId: one.id });
  expect(await spots()).toEqual([
    [1, null],
    [1, "two.png"],
    [2, null],
  ]);
  expect((await checkItems()).findings).toEqual([]);
});
