import { and, eq, inArray, isNull } from "drizzle-orm";
import type { ToldOfItem } from "@/core/alerts/letter";
import { database } from "@/db/connection";
import { alert, item, person, project, state } from "@/db/schema";
import { appAddress } from "../mail/settings";
import { seesItem, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { tellingOf } from "./telling";

/** A person as they are when something is sent to them. */
export interface Receiver {
  viewer: Viewer;
  mail: string;
}

/** Who an account belongs to now; null where it has ended. */
export async function receiverOf(personId: string): Promise<Receiver | null> {
  const [row] = await database()
    .select()
    .from(person)
    .where(and(eq(person.id, personId), isNull(person.endedAt)));
  if (!row) return null;
  const { id, name, administrator, email } = row;
  return { viewer: { personId: id, name, administrator }, mail: email };
}

/** What alerts tell somebody at this moment, of the items that they may see, in the same order. */
export async function toldNow(
  viewer: Viewer,
  alerts: readonly (typeof alert.$inferSelect)[],
): Promise<Map<string, ToldOfItem>> {
  if (alerts.length === 0) return new Map();
  const db = database();
  const rows = await db
    .select({
      alertId: alert.id,
      number: item.number,
      title: item.title,
      projectKey: project.key,
      projectName: project.name,
      stateName: state.name,
    })
    .from(alert)
    .innerJoin(item, eq(item.id, alert.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .where(
      and(
        inArray(
          alert.id,
          alerts.map(({ id }) => id),
        ),
        eq(alert.personId, viewer.personId),
        visibleTo(db, viewer),
        seesItem(db, viewer),
      ),
    );
  const seen = new Set(rows.map((row) => row.alertId));
  const telling = await tellingOf(
    viewer,
    alerts.filter(({ id }) => seen.has(id)),
  );
  const told = new Map<string, ToldOfItem>();
  for (const { alertId, projectKey, number, ...about } of rows) {
    const { why = [], lines = [] } = telling.get(alertId) ?? {};
    const itemKey = `${projectKey}-${number}`;
    const page = appAddress(`/p/${projectKey}/items/${itemKey}`);
    if (lines.length > 0) told.set(alertId, { ...about, itemKey, why, lines, page });
  }
  return told;
}
