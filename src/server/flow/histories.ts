import { and, eq, inArray, isNotNull, isNull, or, sql, type SQL } from "drizzle-orm";
import type { Interval } from "@/core/calendar/instant";
import type { FlowHistory } from "@/core/flow/history";
import type { Stay } from "@/core/item/snapshot";
import { pool, type Reader } from "@/db/connection";
import { block, item, itemType, project, stay } from "@/db/schema";

export interface HistoryFilter {
  typeId?: string;
  classOfService?: string;
}

/** An item's history up to one of its versions. */
interface KnownHistory {
  version: number;
  history: FlowHistory;
}

/**
 * What a process has read of each project. A history changes only together with the item's version,
 * so after the first read only the items that changed since are read again. Projects that were not
 * asked for the longest go first.
 */
const knownIn = new WeakMap<object, Map<string, Map<string, KnownHistory>>>();
const KEPT_PROJECTS = 40;

function knownOf(projectId: string): Map<string, KnownHistory> {
  let projects = knownIn.get(pool());
  if (!projects) knownIn.set(pool(), (projects = new Map()));
  const known = projects.get(projectId) ?? new Map<string, KnownHistory>();
  projects.delete(projectId);
  projects.set(projectId, known);
  if (projects.size > KEPT_PROJECTS) projects.delete(projects.keys().next().value!);
  return known;
}

/** Flow figures are of one level at a time: tasks under an item are part of it. */
export const FLOW_LEVEL = 1;

/**
 * The histories of a project's items of one level for the flow measures; those withdrawn after a
 * start keep their place in the past. They are shared between callers and not to be changed.
 */
export async function loadHistories(
  reader: Reader,
  projectId: string,
  filter: HistoryFilter = {},
): Promise<FlowHistory[]> {
  const versions = await reader
    .select({ id: item.id, version: item.version })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, projectId),
        eq(itemType.level, FLOW_LEVEL),
        or(isNull(item.withdrawnAt), isNotNull(item.firstStartedAt)),
      ),
    );
  const known = knownOf(projectId);
  const changed = versions.filter((v) => known.get(v.id)?.version !== v.version);
  if (changed.length > 0) {
    const read = await readHistories(
      reader,
      projectId,
      changed.length <= FEW ? changed.map((v) => v.id) : null,
    );
    for (const { id, version } of changed) known.set(id, { version, history: read.get(id)! });
  }
  const histories = versions.map((v) => known.get(v.id)!.history);
  if (filter.typeId === undefined && filter.classOfService === undefined) return histories;
  return histories.filter(
    (h) =>
      (filter.typeId === undefined || h.typeId === filter.typeId) &&
      (filter.classOfService === undefined || h.classOfService === filter.classOfService),
  );
}

/** Up to so many changed items are asked for by name; beyond that the whole project is read. */
const FEW = 500;

const milliseconds = (
  column: typeof stay.enteredAt | typeof stay.leftAt | typeof block.fromAt | typeof block.liftedAt,
): SQL<number | null> => sql<number | null>`(date_part('epoch', ${column}) * 1000)::float8`;

async function readHistories(
  reader: Reader,
  projectId: string,
  itemIds: string[] | null,
): Promise<Map<string, FlowHistory>> {
  const scope = and(eq(item.projectId, projectId), itemIds ? inArray(item.id, itemIds) : undefined);
  const [heads, stays, blocks] = await Promise.all([
    reader
      .select({
        id: item.id,
        projectKey: project.key,
        number: item.number,
        title: item.title,
        typeId: item.typeId,
        classOfService: item.classOfService,
      })
      .from(item)
      .innerJoin(project, eq(project.id, item.projectId))
      .where(scope),
    reader
      .select({
        itemId: stay.itemId,
        stateId: stay.stateId,
        kind: stay.kind,
        outcome: stay.outcome,
        from: milliseconds(stay.enteredAt),
        to: milliseconds(stay.leftAt),
      })
      .from(stay)
      .innerJoin(item, eq(item.id, stay.itemId))
      .where(scope)
      .orderBy(stay.itemId, stay.enteredSeq),
    reader
      .select({
        itemId: block.itemId,
        from: milliseconds(block.fromAt),
        to: milliseconds(block.liftedAt),
      })
      .from(block)
      .innerJoin(item, eq(item.id, block.itemId))
      .where(scope),
  ]);
  const staysOf = byItem<Stay>(
    stays.map(({ itemId, stateId, kind, outcome, from, to }) => [
      itemId,
      { stateId, kind, outcome, from: from!, to },
    ]),
  );
  const blocksOf = byItem<Interval>(
    blocks.map(({ itemId, from, to }) => [itemId, { from: from!, to }]),
  );
  return new Map(
    heads.map(({ id, projectKey, number, title, typeId, classOfService }) => [
      id,
      {
        id,
        key: `${projectKey}-${number}`,
        title,
        typeId,
        classOfService,
        stays: staysOf.get(id) ?? [],
        blocks: blocksOf.get(id) ?? [],
      },
    ]),
  );
}

function byItem<T>(entries: [string, T][]): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const [id, value] of entries) {
    const own = groups.get(id);
    if (own) own.push(value);
    else groups.set(id, [value]);
  }
  return groups;
}
