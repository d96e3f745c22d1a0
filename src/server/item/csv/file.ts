import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { pick } from "@/core/item/pick";
import { EDITABLE_FIELDS } from "@/core/item/fields";
import { grouped } from "@/core/item/grouped";
import { itemsAsTable } from "@/core/item/csv/write-items";
import { database, type Reader } from "@/db/connection";
import { item, itemLink, project, state } from "@/db/schema";
import { enterProject, seesAnywhere, seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { snapshotOf } from "../rows";
import { tableGround } from "./ground";

/**
 * All items of a project that somebody may see, as a table with all that they say. @throws Refused
 */
export async function writeItemTable(
  viewer: Viewer,
  projectKey: string,
): Promise<{ name: string; text: string }> {
  const reader = database();
  const where = { key: projectKey };
  const { project: of } = await enterProject({ reader, viewer, where, action: "read project" });
  const above = alias(item, "above");
  const rows = await reader
    .select({ item, stateName: state.name, parentNumber: above.number })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .leftJoin(
      above,
      and(eq(above.id, item.parentId), isNull(above.withdrawnAt), seesItem(reader, viewer, above)),
    )
    .where(and(eq(item.projectId, of.id), isNull(item.withdrawnAt), seesItem(reader, viewer)))
    .orderBy(asc(item.number));
  const [ground, waits] = await Promise.all([
    tableGround(reader, of.id),
    waitsOf(
      reader,
      viewer,
      rows.map((row) => row.item.id),
    ),
  ]);
  const keyOf = (number: number) => `${of.key}-${number}`;
  const text = itemsAsTable(
    rows.map((row) => {
      const snapshot = snapshotOf(row.item);
      return {
        key: keyOf(row.item.number),
        fields: pick(snapshot, EDITABLE_FIELDS),
        own: snapshot.own,
        stateName: row.stateName,
        parentKey: row.parentNumber === null ? null : keyOf(row.parentNumber),
        waitsFor: waits.get(row.item.id) ?? [],
      };
    }),
    ground,
  );
  return { name: `${of.key} items.csv`, text };
}

/** The keys of what some items wait for, as far as somebody may see those. */
async function waitsOf(
  reader: Reader,
  viewer: Viewer,
  ids: readonly string[],
): Promise<ReadonlyMap<string, string[]>> {
  if (ids.length === 0) return new Map();
  const rows = await reader
    .select({
      id: itemLink.fromItemId,
      key: sql<string>`${project.key} || '-' || ${item.number}`,
    })
    .from(itemLink)
    .innerJoin(item, eq(item.id, itemLink.toItemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        eq(itemLink.kind, "waits for"),
        inArray(itemLink.fromItemId, [...ids]),
        isNull(item.withdrawnAt),
        seesAnywhere(reader, viewer),
      ),
    )
    .orderBy(asc(item.number));
  const byItem = grouped(rows, ({ id }) => id);
  return new Map([...byItem].map(([id, of]) => [id, of.map(({ key }) => key)]));
}
