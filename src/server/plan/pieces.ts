import { and, asc, desc, eq, gte, isNull, ne, or, sql, type SQL } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { LARGE_LEVEL, UNIT_LEVEL } from "@/core/item/item-type";
import { NOTHING_UNDER } from "@/core/plan/piece-progress";
import type { PieceDetail, PieceTreeView, TreePiece, TreeStory } from "@/core/plan/piece-view";
import { database, type Reader } from "@/db/connection";
import { item, itemEvent, itemType, person, state } from "@/db/schema";
import { spansBelow } from "../item/around";
import { keyColumn } from "../item/key";
import { enterProject, isSeen, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { burnUpOf } from "./burn-up";
import { progressOf } from "./large-pieces";
import { readReach } from "./reach";
import { itemsOverTime } from "./timebox-items";

/** Large pieces that finished longer ago than so many days are left out of the tree. */
const FINISHED_SHOWN = 60;
/** So many loose stories are behind their figure. */
const MOST_LOOSE = 500;

/** The large pieces of a project as a tree. @throws Refused */
export async function readPieceTree(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<PieceTreeView> {
  const reader = database();
  const where = { key: projectKey };
  const { project: of, may } = await enterProject({
    reader,
    viewer,
    where,
    action: "read project",
  });
  const today = isoDate(dayNumber(now, of.zone));
  const rows = await readRows(
    reader,
    and(
      eq(item.projectId, of.id),
      gte(itemType.level, LARGE_LEVEL),
      isNull(item.withdrawnAt),
      or(ne(item.stateKind, "finished"), gte(item.finishedAt, now - FINISHED_SHOWN * DAY)),
      seesItem(reader, viewer),
    )!,
  );
  const ids = rows.map(({ id }) => id);
  const [progress, spans, { until }, loose] = await Promise.all([
    progressOf(reader, ids),
    spansBelow(reader, ids, { zone: of.zone, today }, (below) => seesItem(reader, viewer, below)),
    readReach(viewer, projectKey, {}, now),
    looseStories(reader, viewer, of.id),
  ]);
  const known = new Set(ids);
  return {
    project: { key: of.key, name: of.name },
    today,
    levels: of.levelNames,
    pieces: rows.map(({ plannedFrom, plannedTo, parentId, ...row }): TreePiece => {
      const span = spans.get(row.id);
      const dayOf = (number: number | null | undefined) =>
        number == null ? null : isoDate(number);
      return {
        ...row,
        parentId: parentId !== null && known.has(parentId) ? parentId : null,
        from: plannedFrom ?? dayOf(span?.from),
        to: plannedTo ?? dayOf(span?.to),
        byHand: plannedFrom !== null || plannedTo !== null,
        progress: progress.get(row.id) ?? NOTHING_UNDER,
        until: until[row.id] ?? null,
      };
    }),
    loose: { items: loose.length, ids: loose },
    rights: { edit: may("edit item"), rank: may("rank item") },
  };
}

async function readRows(reader: Reader, where: SQL) {
  return reader
    .select({
      id: item.id,
      key: keyColumn,
      title: item.title,
      typeId: item.typeId,
      level: itemType.level,
      version: item.version,
      parentId: item.parentId,
      stateName: state.name,
      stateKind: item.stateKind,
      dueOn: item.dueOn,
      plannedFrom: item.plannedFrom,
      plannedTo: item.plannedTo,
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(state, eq(state.id, item.stateId))
    .where(where)
    .orderBy(
      sql`${item.stateKind} = 'finished'`,
      desc(itemType.level),
      asc(item.rank),
      asc(item.id),
    );
}

async function looseStories(reader: Reader, viewer: Viewer, projectId: string): Promise<string[]> {
  const rows = await reader
    .select({ id: item.id })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, projectId),
        eq(itemType.level, UNIT_LEVEL),
        isNull(item.parentId),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
        seesItem(reader, viewer),
      ),
    )
    .orderBy(asc(item.rank))
    .limit(MOST_LOOSE);
  return rows.map(({ id }) => id);
}

/** A large piece with what stands directly under it, and how it got on. @throws Refused */
export async function readPiece(
  viewer: Viewer,
  projectKey: string,
  pieceId: string,
  now = Date.now(),
): Promise<PieceDetail> {
  const reader = database();
  const where = { key: projectKey };
  const { project: of } = await enterProject({ reader, viewer, where, action: "read project" });
  const [piece] = await reader
    .select({ id: item.id })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        sql`${item.id}::text = ${pieceId}`,
        eq(item.projectId, of.id),
        gte(itemType.level, LARGE_LEVEL),
        seesItem(reader, viewer),
      ),
    );
  if (!piece) throw notFound("large piece");
  const [stories, under] = await Promise.all([
    directStories(reader, viewer, piece.id),
    storiesUnder(reader, viewer, piece.id),
  ]);
  const items = await itemsOverTime(
    reader,
    under.map(({ id, since }) => ({ boxId: piece.id, itemId: id, from: since, to: null })),
  );
  return {
    id: piece.id,
    stories,
    unseen: under.filter(({ seen }) => !seen).length,
    days: burnUpOf(items.get(piece.id) ?? [], { last: now, zone: of.zone }),
  };
}

async function directStories(
  reader: Reader,
  viewer: Viewer,
  pieceId: string,
): Promise<TreeStory[]> {
  return reader
    .select({
      id: item.id,
      key: keyColumn,
      title: item.title,
      typeId: item.typeId,
      version: item.version,
      stateName: state.name,
      stateKind: item.stateKind,
      points: item.estimate,
      assignee: person.name,
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(state, eq(state.id, item.stateId))
    .leftJoin(person, eq(person.id, item.assigneeId))
    .where(
      and(
        eq(item.parentId, pieceId),
        isNull(item.withdrawnAt),
        sql`${itemType.level} < ${LARGE_LEVEL}`,
        seesItem(reader, viewer),
      ),
    )
    .orderBy(sql`${item.stateKind} = 'finished'`, asc(item.rank), asc(item.id));
}

/**
 * The stories that are under a large piece now, at whatever depth, with since when: when they, or
 * what they stand under, came there.
 */
async function storiesUnder(
  reader: Reader,
  viewer: Viewer,
  pieceId: string,
): Promise<{ id: string; since: number; seen: boolean }[]> {
  const { rows } = await reader.execute<{ id: string; since: number }>(sql`
    with recursive under (id, since) as (
      select i.id, '-infinity'::timestamptz from ${item} i where i.id = ${pieceId}::uuid
      union all
      select c.id, greatest(u.since, coalesce(
        (select max(e.at) from ${itemEvent} e where e.item_id = c.id and e.kind = 'put under'),
        c.created_at))
      from under u join ${item} c on c.parent_id = u.id
      where c.withdrawn_at is null
    )
    select u.id, (extract(epoch from u.since) * 1000)::float8 as since
    from under u join ${item} i on i.id = u.id
    join ${itemType} t on t.project_id = i.project_id and t.id = i.type_id
    where t.level = ${UNIT_LEVEL}::int`);
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const seen = await reader
    .select({ id: item.id, seen: isSeen(seesItem(reader, viewer)) })
    .from(item)
    .where(sql`${item.id} = any(${sql.param(ids)}::uuid[])`);
  const isShown = new Map(seen.map((one) => [one.id, one.seen]));
  return rows.map(({ id, since }) => ({
    id,
    since: Math.round(since),
    seen: isShown.get(id) ?? false,
  }));
}
