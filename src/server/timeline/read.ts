import { and, asc, eq, gte, inArray, ne, or, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { DAY, type Instant } from "@/core/calendar/instant";
import { dayNumber, isoDate, parseIsoDate } from "@/core/calendar/zone";
import { EVERY_ITEM } from "@/core/condition/condition";
import { groupLabel } from "@/core/item/list/group";
import { LARGE_LEVEL } from "@/core/item/item-type";
import { PLAIN_LIST } from "@/core/item/list/query";
import type { TimelineAsked } from "@/core/timeline/contract";
import {
  FINISHED_SHOWN,
  MOST_ON_TIMELINE,
  type TimelineForecast,
  type TimelineItem,
  type TimelineMark,
  type TimelineView,
} from "@/core/timeline/view";
import { database, type Reader } from "@/db/connection";
import { item, itemType } from "@/db/schema";
import { enterGround, type Ground } from "../across/ground";
import { spansBelow } from "../item/around";
import { countWhere } from "../item/count";
import { enterList, narrowed } from "../item/list/enter";
import { groupColumn } from "../item/list/key";
import { readGroups, type ListOf } from "../item/list/read";
import { seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { readUntil } from "../plan/reach";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { waitsAmong } from "../plan/waits";

/**
 * The items of a project, or of a place above the projects, with their days, as far as somebody may
 * see them. What finished long ago and is under nothing open is left out, and said.
 */
export async function readTimeline(
  viewer: Viewer,
  key: string,
  { board, condition, group }: TimelineAsked,
  now = Date.now(),
): Promise<TimelineView> {
  const entered = await enterList(viewer, key, now);
  const { ground } = entered;
  const facts = group === null ? [] : [group];
  const of = await narrowed(entered, condition, { board, facts });
  const drawn = and(of.where, lately(of.reader, now))!;
  const [rows, all, shown, groups, [{ count }], marks] = await Promise.all([
    readRows(of, drawn, group === null ? sql`null::text` : groupColumn(group, of.asker)),
    countWhere(of.reader, of.where!),
    countWhere(of.reader, drawn),
    group === null ? [] : readGroups({ ...of, where: drawn }, { ...PLAIN_LIST, group }),
    narrowed(entered, EVERY_ITEM, { board: null }).then((every) => readGroups(every, PLAIN_LIST)),
    readMarks(of.reader, ground),
  ]);
  const ids = new Set(rows.map(({ id }) => id));
  const spans = await spansBelow(
    of.reader,
    rows.filter(({ level }) => level >= LARGE_LEVEL).map(({ id }) => id),
    { zone: ground.zone, today: isoDate(dayNumber(now, ground.zone)) },
    (below) => seesItem(of.reader, viewer, below),
  );
  const mayEdit = new Map(
    ground.projects.map(({ project, may }) => [project.id, may("edit item")] as const),
  );
  const zoneOf = new Map(ground.projects.map(({ project }) => [project.id, project.zone]));
  return {
    today: dayNumber(now, ground.zone),
    items: rows.map((row) =>
      itemOf(row, {
        key: `${ground.keyOf(row.projectId)}-${row.number}`,
        zone: zoneOf.get(row.projectId) ?? ground.zone,
        // What stands under something that is not drawn stands by itself.
        parentId: row.parentId !== null && ids.has(row.parentId) ? row.parentId : null,
        below: spans.get(row.id) ?? null,
        mayEdit: mayEdit.get(row.projectId) ?? false,
      }),
    ),
    groups: groups.map((one) => ({
      key: one.key,
      label: groupLabel(group!, one.key, of.asker.vocabulary),
    })),
    waits: await waitsAmong(of.reader, [...ids]),
    ...marks,
    left: { finished: all - shown, more: shown - rows.length },
    of: count,
    mayEdit: [...mayEdit.values()].some(Boolean),
  };
}

const above = alias(item, "above");

/** What has not finished, finished lately, or belongs to something that has not. */
const lately = (reader: Reader, now: Instant): SQL =>
  or(
    ne(item.stateKind, "finished"),
    gte(item.finishedAt, now - FINISHED_SHOWN * DAY),
    inArray(
      item.parentId,
      reader.select({ id: above.id }).from(above).where(ne(above.stateKind, "finished")),
    ),
  )!;

async function readRows({ reader }: ListOf, where: SQL, group: SQL) {
  return reader
    .select({
      id: item.id,
      projectId: item.projectId,
      number: item.number,
      title: item.title,
      typeId: item.typeId,
      level: itemType.level,
      parentId: item.parentId,
      stateKind: item.stateKind,
      assigneeId: item.assigneeId,
      sprintId: item.sprintId,
      releaseId: item.releaseId,
      version: item.version,
      firstStartedAt: item.firstStartedAt,
      finishedAt: item.finishedAt,
      plannedFrom: item.plannedFrom,
      plannedTo: item.plannedTo,
      dueOn: item.dueOn,
      classOfService: item.classOfService,
      blockedSince: item.blockedSince,
      group: sql<string | number | null>`${group}`,
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(where)
    .orderBy(asc(item.rank), asc(item.id))
    .limit(MOST_ON_TIMELINE);
}

type Row = Awaited<ReturnType<typeof readRows>>[number];

function itemOf(
  row: Row,
  {
    zone,
    ...told
  }: Pick<TimelineItem, "key" | "parentId" | "below" | "mayEdit"> & { zone: string },
): TimelineItem {
  const dayOf = (at: Instant | null) => (at === null ? null : dayNumber(at, zone));
  const dayIn = (date: string | null) => (date === null ? null : parseIsoDate(date));
  const { id, title, typeId, level, stateKind, assigneeId, sprintId, releaseId, version } = row;
  return {
    ...{ id, title, typeId, level, stateKind, assigneeId, sprintId, releaseId, version },
    startedOn: dayOf(row.firstStartedAt),
    finishedOn: dayOf(row.finishedAt),
    plannedFrom: dayIn(row.plannedFrom),
    plannedTo: dayIn(row.plannedTo),
    dueOn: dayIn(row.dueOn),
    fixedDate: row.classOfService === "fixed date",
    blockedSince: dayOf(row.blockedSince),
    group: row.group === null ? null : String(row.group),
    ...told,
  };
}

/** The sprints and releases of what is looked at; above the projects with whose they are. */
async function readMarks(
  reader: Reader,
  { projects }: Ground,
): Promise<Pick<TimelineView, "sprints" | "releases">> {
  const sprints = new Map<string, TimelineMark>();
  const releases = new Map<string, TimelineMark>();
  await Promise.all(
    projects.map(async ({ project: { id: projectId, key } }) => {
      const named = (name: string) => (projects.length > 1 ? `${key} ${name}` : name);
      for (const { id, name, startsOn, endsOn } of await loadSprints(reader, projectId))
        sprints.set(id, {
          ...{ id, name: named(name) },
          from: parseIsoDate(startsOn),
          to: parseIsoDate(endsOn),
        });
      for (const { id, name, dueOn } of await loadReleases(reader, projectId)) {
        if (dueOn === null) continue;
        const day = parseIsoDate(dueOn);
        releases.set(id, { id, name: named(name), from: day, to: day });
      }
    }),
  );
  const inOrder = (marks: Map<string, TimelineMark>) =>
    [...marks.values()].toSorted((a, b) => a.from - b.from || (a.name < b.name ? -1 : 1));
  return { sprints: inOrder(sprints), releases: inOrder(releases) };
}

/** When the open items of what somebody looks at will probably be finished. */
export async function readTimelineForecast(
  viewer: Viewer,
  key: string,
  now = Date.now(),
): Promise<TimelineForecast> {
  const ground = await enterGround(database(), viewer, key, "read project");
  const told = await Promise.all(
    ground.projects.map(({ project }) => readUntil(viewer, project.key, now)),
  );
  return {
    today: dayNumber(now, ground.zone),
    until: Object.assign({}, ...told.map(({ until }) => until)) as TimelineForecast["until"],
    took: told.find(({ took }) => took !== null)?.took ?? null,
  };
}
