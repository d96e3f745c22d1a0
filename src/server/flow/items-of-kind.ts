import { and, eq } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import type { PromiseFilter } from "../intake/promises";

/** Items of a type and a class of service, where such are named, as a condition on `item`. */
export const ofKind = ({ typeId, classOfService }: PromiseFilter) =>
  and(
    typeId ? eq(item.typeId, typeId) : undefined,
    classOfService ? eq(item.classOfService, classOfService) : undefined,
  );

/** The ids of all such items of a project. */
export async function itemsOfKind(
  reader: Reader,
  projectId: string,
  filter: PromiseFilter,
): Promise<string[]> {
  const rows = await reader
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.projectId, projectId), ofKind(filter)));
  return rows.map(({ id }) => id);
}
