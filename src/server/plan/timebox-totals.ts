import { and, asc, eq, isNotNull, isNull, ne, sql } from "drizzle-orm";
import type { TimeboxTotal } from "@/core/plan/backlog-view";
import { TIMEBOXES, type Timebox } from "@/core/plan/membership";
import { database, type Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { countWhere } from "../item/count";
import { enterProject, hiddenFrom, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

const COLUMN_OF = { sprint: item.sprintId, release: item.releaseId };

const OPEN = and(isNull(item.withdrawnAt), ne(item.stateKind, "finished"));
const openOf = (projectId: string) => and(eq(item.projectId, projectId), OPEN);

/**
 * What is in each sprint and release, and open, by its id. Totals are facts of the project: they count
 * what a person may not see as well, and say how much that is.
 */
export async function timeboxTotals(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
): Promise<Record<string, TimeboxTotal>> {
  const hidden = viewer.administrator ? sql`false` : hiddenFrom(reader, viewer);
  const totalsBy = async (box: Timebox) => {
    const column = COLUMN_OF[box];
    const rows = await reader
      .select({
        id: column,
        items: sql<number>`(count(*) filter (where ${OPEN}))::int`,
        points: sql<number>`coalesce(sum(${item.estimate}) filter (where ${OPEN}), 0)`.mapWith(
          Number,
        ),
        unseen: sql<number>`(count(*) filter (where ${and(OPEN, hidden)}))::int`,
        allItems: sql<number>`count(*)::int`,
        allPoints: sql<number>`coalesce(sum(${item.estimate}), 0)`.mapWith(Number),
      })
      .from(item)
      .where(and(eq(item.projectId, projectId), isNull(item.withdrawnAt), isNotNull(column)))
      .groupBy(column);
    return rows.map(
      ({ id, allItems, allPoints, ...open }) =>
        [id!, { ...open, all: { items: allItems, points: allPoints } }] as const,
    );
  };
  return Object.fromEntries((await Promise.all(TIMEBOXES.map(totalsBy))).flat());
}

/** How many items of any project are open in a sprint or release. */
export const countOpenInside = (reader: Reader, timebox: Timebox, id: string): Promise<number> =>
  countWhere(reader, and(OPEN, eq(COLUMN_OF[timebox], id)));

/** The ids of the open items of a sprint or release that a person may see, in their order. */
export async function openInside(
  viewer: Viewer,
  projectKey: string,
  { timebox, id }: { timebox: Timebox; id: string },
): Promise<{ ids: string[] }> {
  const reader = database();
  const { project } = await enterProject({
    reader,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const rows = await reader
    .select({ id: item.id })
    .from(item)
    .where(and(openOf(project.id), eq(COLUMN_OF[timebox], id), seesItem(reader, viewer)))
    .orderBy(asc(item.rank), asc(item.number));
  return { ids: rows.map((r) => r.id) };
}
