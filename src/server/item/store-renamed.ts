import { and, eq, sql } from "drizzle-orm";
import { TERM_FIELDS } from "@/core/item/terms/term";
import type { Transaction } from "@/db/connection";
import { item } from "@/db/schema";
import { renamedIn } from "./terms/renamed-in";
import type { Renaming } from "./terms/renaming";

/**
 * Calls a label or a part otherwise on all items of a project that say it: what their histories come
 * to with the words as they are called now. @returns how many they are
 */
export async function renameOnItems(
  tx: Transaction,
  { projectId, kind, from, to }: Renaming,
): Promise<number> {
  const column = item[TERM_FIELDS[kind]];
  const saying = and(eq(item.projectId, projectId), sql`${column} ? ${from}::text`);
  const rows = await tx
    .select({ id: item.id })
    .from(item)
    .where(saying)
    .orderBy(item.id)
    .for("update");
  if (rows.length === 0) return 0;
  await tx
    .update(item)
    .set({ [TERM_FIELDS[kind]]: renamedIn(column, from, to) })
    .where(saying);
  return rows.length;
}
