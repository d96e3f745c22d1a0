import {
  and,
  asc,
  count,
  desc,
  eq,
  gte,
  inArray,
  isNotNull,
  isNull,
  ne,
  sql,
  type SQL,
} from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { KeyedItem } from "@/core/intake/desk-view";
import { database } from "@/db/connection";
import { item, itemType } from "@/db/schema";
import { keyColumn } from "../item/key";
import { seesAnywhere, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

/*
 * What a triage desk reads of a project's items: what a report can become part of, who has how
 * much, and which words items use already.
 */

interface DeskProject {
  id: string;
  key: string;
}

const OFFERED = 40;

/** Of a project and not withdrawn. */
const inProject = (projectId: string, ...more: (SQL | undefined)[]) =>
  and(eq(item.projectId, projectId), isNull(item.withdrawnAt), ...more);

/** How many of a project's items each team, and each person, has open. */
export async function openWork(projectId: string): Promise<{
  byTeam: Map<string | null, number>;
  byPerson: Map<string | null, number>;
}> {
  const db = database();
  const [teams, people] = await Promise.all([
    db
      .select({ id: item.teamId, n: count() })
      .from(item)
      .where(inProject(projectId, ne(item.stateKind, "finished")))
      .groupBy(item.teamId),
    db
      .select({ id: item.assigneeId, n: count() })
      .from(item)
      .where(
        inProject(
          projectId,
          inArray(item.stateKind, ["waiting", "working"]),
          isNull(item.parentId),
        ),
      )
      .groupBy(item.assigneeId),
  ]);
  const byId = (rows: { id: string | null; n: number }[]) => new Map(rows.map((r) => [r.id, r.n]));
  return { byTeam: byId(teams), byPerson: byId(people) };
}

/** Items of their own, in some order. */
async function ownItems(
  viewer: Viewer,
  project: DeskProject,
  { where, order, most }: { where: SQL; order: SQL; most: number },
): Promise<KeyedItem[]> {
  const rows = await database()
    .select({ id: item.id, number: item.number, title: item.title })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(inProject(project.id, sql`${itemType.level} >= 1`, where, seesItem(database(), viewer)))
    .orderBy(order)
    .limit(most);
  return rows.map(({ id, number, title }) => ({ id, key: `${project.key}-${number}`, title }));
}

/** What stands on top of a project's backlogs. */
export const backlogTop = (viewer: Viewer, project: DeskProject): Promise<KeyedItem[]> =>
  ownItems(viewer, project, {
    where: eq(item.stateKind, "unstarted"),
    order: asc(item.rank),
    most: OFFERED,
  });

/** What is in work, what moved last first. */
export const inWork = (viewer: Viewer, project: DeskProject): Promise<KeyedItem[]> =>
  ownItems(viewer, project, {
    where: inArray(item.stateKind, ["waiting", "working"]),
    order: desc(item.enteredStateAt),
    most: 120,
  });

/** What was delivered and is finished, the latest first. */
export const finishedLately = (viewer: Viewer, project: DeskProject): Promise<KeyedItem[]> =>
  ownItems(viewer, project, {
    where: and(isNotNull(item.finishedAt), isNotNull(item.deliveredAt))!,
    order: desc(item.enteredStateAt),
    most: 80,
  });

/** Where items of a project are, the places of most items first. */
export async function areasOf(viewer: Viewer, projectId: string): Promise<string[]> {
  const db = database();
  const rows = await db
    .select({ place: item.place })
    .from(item)
    .where(inProject(projectId, isNotNull(item.place), seesItem(db, viewer)))
    .groupBy(item.place)
    .orderBy(desc(count()))
    .limit(OFFERED);
  return rows.flatMap((r) => r.place ?? []);
}

/** The keys of some items by their ids, whatever project they are in. */
async function keysOf(ids: readonly (string | null)[], where?: SQL): Promise<Map<string, string>> {
  const known = ids.filter((id) => id !== null);
  if (known.length === 0) return new Map();
  const rows = await database()
    .select({ id: item.id, key: keyColumn })
    .from(item)
    .where(and(inArray(item.id, known), where));
  return new Map(rows.map((r) => [r.id, r.key]));
}

/** The same, of those that a person may see. */
export const seenKeysOf = (viewer: Viewer, ids: readonly (string | null)[]) =>
  keysOf(ids, seesAnywhere(database(), viewer));

/** What went live since an instant, the latest first. */
export const deliveredSince = (viewer: Viewer, projectId: string, since: Instant) =>
  database()
    .select({
      id: item.id,
      number: item.number,
      title: item.title,
      description: item.description,
      place: item.place,
      at: item.finishedAt,
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      inProject(
        projectId,
        isNotNull(item.deliveredAt),
        sql`${itemType.level} >= 1`,
        gte(item.finishedAt, since),
        seesItem(database(), viewer),
      ),
    )
    .orderBy(desc(item.finishedAt))
    .limit(100);
