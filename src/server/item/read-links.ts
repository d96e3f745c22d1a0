import { and, asc, eq, or, sql } from "drizzle-orm";
import type { ItemViewLink } from "@/core/item/item-view";
import { linkWords } from "@/core/item/link-way";
import type { Reader } from "@/db/connection";
import { item, itemLink, person, project, sprint, state } from "@/db/schema";
import { seesAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";

/** What an item is linked to, in whatever project, as far as a person may see it. */
export async function readLinks(
  reader: Reader,
  viewer: Viewer,
  itemId: string,
): Promise<ItemViewLink[]> {
  const rows = await reader
    .select({
      id: itemLink.id,
      kind: itemLink.kind,
      outward: sql<boolean>`${itemLink.fromItemId} = ${itemId}`,
      otherId: item.id,
      key: sql<string>`${project.key} || '-' || ${item.number}`,
      title: item.title,
      stateName: state.name,
      stateKind: item.stateKind,
      deliveredAt: item.deliveredAt,
      withdrawnAt: item.withdrawnAt,
      owner: person.name,
      sprintName: sprint.name,
    })
    .from(itemLink)
    .innerJoin(
      item,
      sql`${item.id} = case when ${itemLink.fromItemId} = ${itemId} then ${itemLink.toItemId} else ${itemLink.fromItemId} end`,
    )
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .leftJoin(person, eq(person.id, item.assigneeId))
    .leftJoin(sprint, eq(sprint.id, item.sprintId))
    .where(
      and(
        or(eq(itemLink.fromItemId, itemId), eq(itemLink.toItemId, itemId)),
        seesAnywhere(reader, viewer),
      ),
    )
    .orderBy(asc(itemLink.kind), asc(itemLink.id));
  return rows.map((row) => ({
    id: row.id,
    otherId: row.otherId,
    words: linkWords({ kind: row.kind, otherKey: "", outward: row.outward }),
    key: row.key,
    title: row.title,
    stateName: row.withdrawnAt === null ? row.stateName : "taken back",
    finished: row.stateKind === "finished" || row.withdrawnAt !== null,
    owner: row.owner,
    sprintName: row.sprintName,
    wait: waitOf(row),
  }));
}

/** How it stands with what an item waits for; null where it does not wait, or not any more. */
function waitOf(link: {
  kind: string;
  outward: boolean;
  stateKind: string;
  deliveredAt: number | null;
  withdrawnAt: number | null;
}): ItemViewLink["wait"] {
  if (link.kind !== "waits for" || !link.outward || link.deliveredAt !== null) return null;
  return link.withdrawnAt !== null || link.stateKind === "finished" ? "ended otherwise" : "open";
}
