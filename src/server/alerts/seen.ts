import { and, eq, inArray, isNull } from "drizzle-orm";
import { database } from "@/db/connection";
import { item, project } from "@/db/schema";
import { seesItem, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";

/** Of some items the ones that a person may see. */
export async function seenOf(viewer: Viewer, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const db = database();
  const rows = await db
    .select({ id: item.id })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        inArray(item.id, [...ids]),
        visibleTo(db, viewer),
        seesItem(db, viewer),
        isNull(item.withdrawnAt),
      ),
    );
  return new Set(rows.map((row) => row.id));
}
