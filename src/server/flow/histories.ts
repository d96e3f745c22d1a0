import { and, eq, gte, isNull, sql, type SQL } from "drizzle-orm";
import type { FlowHistory } from "@/core/flow/history";
import type { StateKind } from "@/core/workflow/workflow";
import { type Reader } from "@/db/connection";
import { block, item, itemType, project, stay } from "@/db/schema";

export interface HistoryFilter {
  typeId?: string;
  classOfService?: string;
}

const milliseconds = (column: SQL | typeof stay.enteredAt | typeof stay.leftAt | typeof block.fromAt | typeof block.liftedAt) =>
  sql<number | null>`(extract(epoch from ${column}) * 1000)::float8`;

/**
 * The histories of a project's items at level 1 and above (tasks under an item are part of it), for the flow measures.
 * Three plain passes over items, stays and blocks, put together here.
 */
export async function loadHistories(reader: Reader, projectId: string, filter: HistoryFilter = {}): Promise<FlowHistory[]> {
  const scope = and(
    eq(item.projectId, projectId),
    isNull(item.withdrawnAt),
    gte(itemType.level, 1),
    filter.typeId ? eq(item.typeId, filter.typeId) : undefined,
    filter.classOfService ? sql`${item.classOfService} = ${filter.classOfService}` : undefined,
  );
  const typed = and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId));
  const [items, stays, blocks] = await Promise.all([
    reader
      .select({ id: item.id, projectKey: project.key, number: item.number, title: item.title, typeId: item.typeId, classOfService: item.classOfService })
      .from(item)
      .innerJoin(itemType, typed)
      .innerJoin(project, eq(project.id, item.projectId))
      .where(scope),
    reader
      .select({ itemId: stay.itemId, stateId: stay.stateId, kind: stay.kind, from: milliseconds(stay.enteredAt), to: milliseconds(stay.leftAt) })
      .from(stay)
      .innerJoin(item, eq(item.id, stay.itemId))
      .innerJoin(itemType, typed)
      .where(scope)
      .orderBy(stay.itemId, stay.enteredSeq),
    reader
      .select({ itemId: block.itemId, from: milliseconds(block.fromAt), to: milliseconds(block.liftedAt) })
      .from(block)
      .innerJoin(item, eq(item.id, block.itemId))
      .innerJoin(itemType, typed)
      .where(scope),
  ]);
  const histories = new Map<string, FlowHistory>();
  for (const { id, projectKey, number, title, typeId, classOfService } of items)
    histories.set(id, { id, key: `${projectKey}-${number}`, title, typeId, classOfService, stays: [], blocks: [] });
  for (const { itemId, stateId, kind, from, to } of stays) histories.get(itemId)?.stays.push({ stateId, kind: kind as StateKind, from: from!, to });
  for (const { itemId, from, to } of blocks) histories.get(itemId)?.blocks.push({ from: from!, to });
  return [...histories.values()];
}

