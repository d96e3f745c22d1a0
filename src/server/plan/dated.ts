import { and, asc, eq, gte, inArray, isNotNull, isNull, lte, sql, type SQL } from "drizzle-orm";
import type { Day } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { DatedItem, DatedRelease, DatedSprint } from "@/core/plan/calendar-view";
import { sprintStanding } from "@/core/plan/sprint";
import type { Reader } from "@/db/connection";
import { item, release, sprint } from "@/db/schema";
import { keyColumn } from "../item/key";
import { seesAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";
import { openToAny } from "./timeboxes";

interface Stretch {
  from: Day;
  to: Day;
}

/** The sprints of some projects that touch a stretch of days. */
export async function datedSprints(
  reader: Reader,
  projectIds: readonly string[],
  { from, to }: Stretch,
  now: number,
): Promise<DatedSprint[]> {
  const rows = await reader
    .select()
    .from(sprint)
    .where(
      and(
        openToAny(reader, "sprint", sprint.id, projectIds),
        isNull(sprint.removedAt),
        lte(sprint.startsOn, to),
        gte(sprint.endsOn, from),
      ),
    )
    .orderBy(asc(sprint.startsOn), asc(sprint.id));
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    goal: row.goal,
    from: row.startsOn,
    to: row.endsOn,
    standing: sprintStanding(row, isoDate(dayNumber(now, row.zone))),
  }));
}

/** The releases of some projects that go out, or went, in a stretch of days. */
export async function datedReleases(
  reader: Reader,
  projectIds: readonly string[],
  { from, to }: Stretch,
): Promise<DatedRelease[]> {
  const rows = await reader
    .select()
    .from(release)
    .where(and(openToAny(reader, "release", release.id, projectIds), isNull(release.removedAt)))
    .orderBy(asc(release.dueOn), asc(release.id));
  return rows.flatMap(({ id, name, zone, dueOn, releasedAt }) => {
    const on = releasedAt === null ? dueOn : isoDate(dayNumber(releasedAt, zone));
    return on !== null && from <= on && on <= to
      ? [{ id, name, on, out: releasedAt !== null }]
      : [];
  });
}

/** Of items with a day in a stretch those that somebody may see; fixed dates first on each. */
export async function datedItems(
  reader: Reader,
  viewer: Viewer,
  which: SQL,
  { from, to, most }: Stretch & { most: number },
): Promise<DatedItem[]> {
  const fixed = sql<boolean>`${item.classOfService} = 'fixed date'`;
  const rows = await reader
    .select({
      id: item.id,
      key: keyColumn,
      title: item.title,
      typeId: item.typeId,
      on: item.dueOn,
      fixed,
      finished: sql<boolean>`${item.stateKind} = 'finished'`,
    })
    .from(item)
    .where(
      and(
        which,
        isNotNull(item.dueOn),
        gte(item.dueOn, from),
        lte(item.dueOn, to),
        isNull(item.withdrawnAt),
        seesAnywhere(reader, viewer),
      ),
    )
    .orderBy(asc(item.dueOn), sql`not (${fixed})`, asc(item.rank))
    .limit(most);
  return rows.map(({ on, ...row }) => ({ ...row, on: on! }));
}

/** That an item is of one of some projects. */
export const ofProjects = (projectIds: readonly string[]): SQL =>
  projectIds.length > 0 ? inArray(item.projectId, [...projectIds]) : sql`false`;

/** That somebody has an item. */
export const hasIt = (viewer: Viewer): SQL => eq(item.assigneeId, viewer.personId);
