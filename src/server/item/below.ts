import { and } from "drizzle-orm";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { enterProject, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { idsBelow } from "./around";
import { hasKeyAmong } from "./key";

/** All that is under a large piece, as far as a person may see it. */
export async function readBelow(viewer: Viewer, key: string): Promise<{ ids: string[] }> {
  const reader = database();
  const [row] = await reader
    .select({ id: item.id, projectId: item.projectId })
    .from(item)
    .where(and(hasKeyAmong([key]), seesItem(reader, viewer)));
  if (!row) throw notFound("item");
  await enterProject({
    reader,
    viewer,
    where: { id: row.projectId },
    action: "read project",
    asked: "item",
  });
  return { ids: await idsBelow(reader, row.id, (of) => seesItem(reader, viewer, of)) };
}
