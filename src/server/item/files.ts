import { and, eq, isNull } from "drizzle-orm";
import { fileSize } from "@/core/formats/file-size";
import { isDrawable, pictureSize } from "@/core/formats/picture-size";
import { LARGEST_ITEM_FILE, type ItemFileView } from "@/core/item/item-file";
import { database, transact } from "@/db/connection";
import { itemFile } from "@/db/schema";
import { cleanName, isPicture, mediaTypeOf } from "../files/kind";
import { keepFile, readKept } from "../files/store";
import type { ServedFile } from "../intake/files";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { enterByKey, seeByKey } from "./by-key";
import { throughDoor } from "./door";
import { refuseTooManyFiles } from "./file-command";
import { readItemFiles } from "./read-files";
import { isId } from "../is-id";

/** What is sent to an item: nothing about it is believed but its bytes. */
export interface SentToItem {
  /** Made by the sender: the same file sent twice is put to it once. */
  id: string;
  name: string;
  content: Buffer;
}

const UNKNOWN_KIND = "application/octet-stream";

/**
 * Puts a file to an item. Its bytes are kept first; who may read them is whoever may see the item.
 * @throws Refused
 */
export async function addItemFile(
  viewer: Viewer,
  key: string,
  { id, name: called, content }: SentToItem,
  now = Date.now(),
): Promise<ItemFileView> {
  const name = cleanName(called);
  if (content.length === 0)
    throw invalid(`${name} is empty.`, "Choose a file that says something.");
  if (content.length > LARGEST_ITEM_FILE)
    throw invalid(
      `${name} has ${fileSize(content.length)}.`,
      `Choose one of at most ${fileSize(LARGEST_ITEM_FILE)}.`,
    );
  const itemId = await transact(async (tx) => {
    const entered = await enterByKey(tx, viewer, key, "edit item");
    const { itemId } = entered;
    const [known] = await tx.select().from(itemFile).where(eq(itemFile.id, id));
    if (known) {
      if (known.itemId !== itemId) throw notFound("file");
      return itemId;
    }
    await refuseTooManyFiles(tx, itemId);
    const mediaType = mediaTypeOf(content) ?? UNKNOWN_KIND;
    const size = isPicture(mediaType) ? pictureSize(content) : null;
    const drawn = isDrawable(size) ? size : null;
    await tx.insert(itemFile).values({
      id,
      itemId,
      name,
      mediaType,
      sha256: await keepFile(tx, content, now),
      size: content.length,
      width: drawn?.width ?? null,
      height: drawn?.height ?? null,
      byId: viewer.personId,
      at: now,
    });
    await throughDoor(tx, viewer, {
      on: entered,
      commandId: id,
      ask: { kind: "prepared", command: { kind: "add file", fileId: id, name } },
    });
    return itemId;
  });
  const files = await readItemFiles(database(), itemId);
  const made = files.find((file) => file.id === id);
  if (!made) throw notFound("file");
  return made;
}

/** A file of an item, for whoever may see the item. @throws Refused where it has none such */
export async function itemFileFor(
  viewer: Viewer,
  key: string,
  fileId: string,
): Promise<ServedFile> {
  const db = database();
  const { itemId } = await seeByKey(db, viewer, key, "read project");
  const [row] = isId(fileId)
    ? await db
        .select()
        .from(itemFile)
        .where(
          and(eq(itemFile.id, fileId), eq(itemFile.itemId, itemId), isNull(itemFile.removedAt)),
        )
    : [];
  const sha256 = row?.sha256 ?? null;
  const content = sha256 === null ? null : await readKept(db, sha256);
  if (!row || sha256 === null || !content) throw notFound("file");
  const { name, mediaType } = row;
  return { name, mediaType, sha256, content };
}
