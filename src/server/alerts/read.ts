import { and, desc, eq, isNotNull, isNull, lt, or, sql, type SQL } from "drizzle-orm";
import type {
  AlertGroup,
  AlertShelf,
  AlertStanding,
  AlertsView,
  AlertView,
} from "@/core/alerts/alert";
import { ALERTS_SHOWN } from "@/core/alerts/request";
import { database } from "@/db/connection";
import { alert, item, project, state } from "@/db/schema";
import { seesItem, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { isFresh } from "./keep";
import { tellingOf } from "./telling";

/** What a person is told, of items that they may see now. */
const mine = (viewer: Viewer): SQL | undefined =>
  and(
    eq(alert.personId, viewer.personId),
    visibleTo(database(), viewer),
    seesItem(database(), viewer),
  );

const onShelf = (shelf: AlertShelf, now: number): SQL | undefined => {
  const later = sql`${alert.laterUntil} > ${new Date(now).toISOString()}::timestamptz`;
  if (shelf === "done") return isNotNull(alert.doneAt);
  if (shelf === "later") return and(isNull(alert.doneAt), later);
  return and(isNull(alert.doneAt), sql`(${later}) is not true`);
};

/** A place in a person's alerts: when the last of a page happened, and its id. */
const placeOf = (row: { lastAt: number; id: string }) => `${row.lastAt}.${row.id}`;

function after(place: string | undefined): SQL | undefined {
  const [at, id] = (place ?? "").split(".");
  if (!place || !/^\d{1,15}$/.test(at) || !/^[0-9a-f-]{36}$/.test(id ?? "")) return undefined;
  const when = Number(at);
  return or(lt(alert.lastAt, when), and(eq(alert.lastAt, when), lt(alert.id, id)));
}

/**
 * What a person is told, by item, the latest first. What was undone since is left out, and so is
 * what they may not see any more.
 */
export async function readAlerts(
  viewer: Viewer,
  asked: { shelf: AlertShelf; after?: string },
  now = Date.now(),
): Promise<AlertsView> {
  const rows = await database()
    .select({ alert, item, projectKey: project.key, stateName: state.name })
    .from(alert)
    .innerJoin(item, eq(item.id, alert.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .where(and(mine(viewer), onShelf(asked.shelf, now), after(asked.after)))
    .orderBy(desc(alert.lastAt), desc(alert.id))
    .limit(ALERTS_SHOWN + 1);
  const shown = rows.slice(0, ALERTS_SHOWN);
  const telling = await tellingOf(
    viewer,
    shown.map((row) => row.alert),
  );
  const groups = new Map<string, AlertGroup>();
  for (const { alert: row, item: of, projectKey, stateName } of shown) {
    const told = telling.get(row.id);
    if (!told || told.lines.length === 0) continue;
    const itemKey = `${projectKey}-${of.number}`;
    const group = groups.get(itemKey) ?? {
      itemKey,
      projectKey,
      title: of.title,
      typeId: of.typeId,
      stateName,
      alerts: [],
    };
    groups.set(itemKey, group);
    group.alerts.push(viewOfAlert(row, told, now));
  }
  return {
    groups: [...groups.values()],
    fresh: await freshCount(viewer, now),
    next: rows.length > ALERTS_SHOWN ? placeOf(shown.at(-1)!.alert) : null,
  };
}

function viewOfAlert(
  row: typeof alert.$inferSelect,
  told: Pick<AlertView, "why" | "lines">,
  now: number,
): AlertView {
  const { id, firstAt, lastAt, laterUntil } = row;
  return { id, firstAt, lastAt, laterUntil, standing: standingOf(row, now), ...told };
}

function standingOf(
  { doneAt, readAt, laterUntil }: typeof alert.$inferSelect,
  now: number,
): AlertStanding {
  if (doneAt !== null) return "done";
  if (laterUntil !== null && laterUntil > now) return "later";
  return readAt === null ? "new" : "read";
}

/** How many alerts of a person are new, of items that they may see. */
export async function freshCount(viewer: Viewer, now = Date.now()): Promise<number> {
  const [{ n }] = await database()
    .select({ n: sql<number>`count(*)::int` })
    .from(alert)
    .innerJoin(item, eq(item.id, alert.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .where(and(mine(viewer), isFresh(now)));
  return n;
}
