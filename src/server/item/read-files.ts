import { and, asc, eq, isNull } from "drizzle-orm";
import type { ItemFileView } from "@/core/item/item-file";
import type { Reader } from "@/db/connection";
import { itemFile, person } from "@/db/schema";
import { filesOfReports } from "../intake/files";

/** The files of an item, the first one first. */
export async function readItemFiles(reader: Reader, itemId: string): Promise<ItemFileView[]> {
  const rows = await reader
    .select({ file: itemFile, by: person.name })
    .from(itemFile)
    .leftJoin(person, eq(person.id, itemFile.byId))
    .where(and(eq(itemFile.itemId, itemId), isNull(itemFile.removedAt)))
    .orderBy(asc(itemFile.at), asc(itemFile.id));
  return rows.map(({ file: { id, name, mediaType, size, width, height, at }, by }) => ({
    id,
    name,
    mediaType,
    size,
    picture: width !== null && height !== null ? { width, height } : null,
    by: by ?? "somebody",
    at,
  }));
}

/** What files are called by their ids: those of an item, and those that came with its reports. */
export async function fileNamesAt(reader: Reader, itemId: string): Promise<Map<string, string>> {
  const own = await reader
    .select({ id: itemFile.id, name: itemFile.name })
    .from(itemFile)
    .where(and(eq(itemFile.itemId, itemId), isNull(itemFile.removedAt)));
  const reported = [...(await filesOfReports(reader, itemId)).values()].flat();
  return new Map([...own, ...reported].map(({ id, name }) => [id, name]));
}
