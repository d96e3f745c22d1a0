import { and, eq, inArray } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { item } from "@/db/schema";
import type { Ground } from "../../across/ground";
import { seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import type { ListOf } from "./read";

/** An item that others stand under, as it is called. */
export interface Parent {
  key: string;
  title: string;
}

const parent = alias(item, "parent");
const columns = {
  id: parent.id,
  projectId: parent.projectId,
  number: parent.number,
  title: parent.title,
};

/** What the items are called that the items of a list stand under, as far as a person may see them. */
export async function parentsOf(
  { reader, where }: Pick<ListOf, "reader" | "where">,
  viewer: Viewer,
  { keyOf }: Pick<Ground, "keyOf">,
): Promise<(Parent & { id: string })[]> {
  const ids = reader.select({ id: item.parentId }).from(item).where(where);
  const rows = await reader
    .select(columns)
    .from(parent)
    .where(and(inArray(parent.id, ids), seesItem(reader, viewer, parent)));
  return rows.map(({ id, projectId, number, title }) => ({
    id,
    key: `${keyOf(projectId)}-${number}`,
    title,
  }));
}

/** The same by the items that stand under them. */
export async function readParents(
  of: Pick<ListOf, "reader" | "where">,
  viewer: Viewer,
  { keyOf }: Pick<Ground, "keyOf">,
): Promise<ReadonlyMap<string, Parent>> {
  const rows = await of.reader
    .select({ ...columns, id: item.id })
    .from(item)
    .innerJoin(parent, eq(parent.id, item.parentId))
    .where(and(of.where, seesItem(of.reader, viewer, parent)));
  return new Map(
    rows.map(({ id, projectId, number, title }) => [
      id,
      { key: `${keyOf(projectId)}-${number}`, title },
    ]),
  );
}
