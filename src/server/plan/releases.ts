import { and, asc, count, desc, eq, gte, inArray, isNull, sql, type SQL } from "drizzle-orm";
import { DAY, type Instant } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { grouped } from "@/core/item/grouped";
import { UNIT_LEVEL } from "@/core/item/item-type";
import { movedWords, type DateChange } from "@/core/plan/release-plan";
import {
  LOOSE_DAYS,
  MOST_LOOSE,
  type ReleaseItem,
  type ReleaseLine,
  type ReleasesView,
  type ReleaseView,
} from "@/core/plan/release-view";
import type { Release } from "@/core/plan/sprint";
import { database, type Reader } from "@/db/connection";
import { item, itemType, person, releaseDate, state } from "@/db/schema";
import { keyColumn } from "../item/key";
import { enterProject, seesAnywhere, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { burnUpOf } from "./burn-up";
import { readReach } from "./reach";
import { timeboxItems } from "./timebox-items";
import { loadReleases } from "./timeboxes";

/** The releases of a project, with what was delivered and is in none of them. */
export async function readReleases(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<ReleasesView> {
  const reader = database();
  const where = { key: projectKey };
  const { project, may } = await enterProject({ reader, viewer, where, action: "read project" });
  const inNone = and(
    eq(item.projectId, project.id),
    isNull(item.releaseId),
    isNull(item.withdrawnAt),
    eq(item.stateKind, "finished"),
    gte(item.deliveredAt, now - LOOSE_DAYS * DAY),
    inArray(
      item.typeId,
      reader
        .select({ id: itemType.id })
        .from(itemType)
        .where(and(eq(itemType.projectId, project.id), eq(itemType.level, UNIT_LEVEL))),
    ),
    seesItem(reader, viewer),
  )!;
  const [lines, loose, [{ n }]] = await Promise.all([
    readReleaseLines(reader, project.id),
    readItems(reader, inNone, project.zone, { order: desc(item.deliveredAt), most: MOST_LOOSE }),
    reader.select({ n: count() }).from(item).where(inNone),
  ]);
  return {
    project: { key: project.key, name: project.name, zone: project.zone },
    today: isoDate(dayNumber(now, project.zone)),
    releases: lines,
    loose,
    looseTotal: n,
    rights: { plan: may("plan work") && may("edit item") },
  };
}

/** The releases of a project, with how much is in each: those to come, then those that are out. */
export const readReleaseLines = async (reader: Reader, projectId: string): Promise<ReleaseLine[]> =>
  linesOf(reader, inTheirOrder(await loadReleases(reader, projectId)));

/** Those to come by their day, then those that are out, the latest first. */
function inTheirOrder(releases: readonly Release[]): Release[] {
  const out = releases.filter(({ releasedAt }) => releasedAt !== null);
  return [
    ...releases.filter(({ releasedAt }) => releasedAt === null),
    ...out.toSorted((a, b) => b.releasedAt! - a.releasedAt!),
  ];
}

/** A release with what is in it and how it got ready. @throws Refused where there is none such */
export async function readRelease(
  viewer: Viewer,
  projectKey: string,
  releaseId: string,
  now = Date.now(),
): Promise<ReleaseView> {
  const reader = database();
  const where = { key: projectKey };
  const { project } = await enterProject({ reader, viewer, where, action: "read project" });
  const found = (await loadReleases(reader, project.id)).find(({ id }) => id === releaseId);
  if (!found) throw notFound("release");
  const inside = and(eq(item.releaseId, releaseId), isNull(item.withdrawnAt))!;
  const finished = sql`${item.stateKind} = 'finished'`;
  const [[line], dates, items, course] = await Promise.all([
    linesOf(reader, [found]),
    datesOf(reader, [releaseId]),
    readItems(reader, and(inside, seesAnywhere(reader, viewer))!, project.zone, {
      order: sql`${finished}, ${item.rank}`,
    }),
    readReleaseCourse(viewer, project, found, now),
  ]);
  return {
    release: line,
    dates: dates.get(releaseId) ?? [],
    ...course,
    items,
    unseen: line.items - items.length,
  };
}

/** How a release got ready day by day, and until when it probably is; null where nothing tells that. */
export async function readReleaseCourse(
  viewer: Viewer,
  { key, zone }: { key: string; zone: string },
  { id, startsOn, releasedAt }: Pick<Release, "id" | "startsOn" | "releasedAt">,
  now: Instant,
): Promise<Pick<ReleaseView, "days" | "until">> {
  const [members, reach] = await Promise.all([
    timeboxItems(database(), [id], "release"),
    releasedAt === null ? readReach(viewer, key, {}, now) : null,
  ]);
  const last = Math.min(now, releasedAt ?? now);
  return {
    days: burnUpOf(members.get(id) ?? [], { last, zone, startsOn }),
    until: reach?.until[id] ?? null,
  };
}

/** How much is in some releases: facts of the project, whoever looks. */
async function linesOf(reader: Reader, releases: readonly Release[]): Promise<ReleaseLine[]> {
  const ids = releases.map(({ id }) => id);
  if (ids.length === 0) return [];
  const done = eq(item.stateKind, "finished");
  const [sums, dates] = await Promise.all([
    reader
      .select({
        id: item.releaseId,
        items: sql<number>`count(*)::int`,
        done: sql<number>`(count(*) filter (where ${done}))::int`,
        points: sql<number>`coalesce(sum(${item.estimate}), 0)::float8`,
        donePoints: sql<number>`coalesce(sum(${item.estimate}) filter (where ${done}), 0)::float8`,
      })
      .from(item)
      .where(and(inArray(item.releaseId, ids), isNull(item.withdrawnAt)))
      .groupBy(item.releaseId),
    datesOf(reader, ids),
  ]);
  const byId = new Map(sums.map(({ id, ...sum }) => [id, sum]));
  const none = { items: 0, done: 0, points: 0, donePoints: 0 };
  return releases.map(({ id, name, startsOn, dueOn, releasedAt, withdrawnAt }) => ({
    ...{ id, name, startsOn, dueOn, releasedAt, withdrawnAt },
    ...(byId.get(id) ?? none),
    moved: movedWords(dates.get(id) ?? []),
  }));
}

/** The changes of the days of some releases, the first one first. */
async function datesOf(reader: Reader, ids: readonly string[]): Promise<Map<string, DateChange[]>> {
  const rows = await reader
    .select({
      releaseId: releaseDate.releaseId,
      from: releaseDate.from,
      to: releaseDate.to,
      why: releaseDate.why,
      at: releaseDate.at,
      by: person.name,
    })
    .from(releaseDate)
    .innerJoin(person, eq(person.id, releaseDate.byId))
    .where(inArray(releaseDate.releaseId, [...ids]))
    .orderBy(asc(releaseDate.at));
  const byRelease = grouped(rows, ({ releaseId }) => releaseId);
  return new Map(
    [...byRelease].map(([id, all]) => [id, all.map(({ releaseId: _, ...one }) => one)]),
  );
}

async function readItems(
  reader: Reader,
  which: SQL,
  zone: string,
  { order, most = 1_000 }: { order: SQL; most?: number },
): Promise<ReleaseItem[]> {
  const rows = await reader
    .select({
      id: item.id,
      key: keyColumn,
      title: item.title,
      typeId: item.typeId,
      version: item.version,
      stateId: item.stateId,
      stateName: state.name,
      stateKind: item.stateKind,
      assignee: person.name,
      points: item.estimate,
      deliveredAt: item.deliveredAt,
    })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .leftJoin(person, eq(person.id, item.assigneeId))
    .where(which)
    .orderBy(order, asc(item.id))
    .limit(most);
  return rows.map(({ deliveredAt, ...row }) => ({
    ...row,
    deliveredOn: deliveredAt === null ? null : isoDate(dayNumber(deliveredAt, zone)),
  }));
}
