import { and, eq, inArray, isNull, type SQL } from "drizzle-orm";
import type { AlertAct } from "@/core/alerts/request";
import { database } from "@/db/connection";
import { alert } from "@/db/schema";
import { isFresh } from "./keep";
import { tellPeople } from "../people/tell-people";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";

/** Marks alerts as read, new again or done, or puts them off; only one's own. */
export async function actOnAlerts(viewer: Viewer, act: AlertAct, now = Date.now()): Promise<void> {
  if (act.kind === "later" && act.until <= now)
    throw invalid("That is over already.", "Put it off until a later time.");
  const db = database();
  const own: (SQL | undefined)[] = [eq(alert.personId, viewer.personId)];
  if (act.ids) own.push(inArray(alert.id, [...act.ids]));
  if (act.kind === "read") own.push(isNull(alert.readAt));
  // What is put off comes up new again, also when all are marked as read meanwhile.
  if (!act.ids) own.push(isFresh(now));
  await db
    .update(alert)
    .set(changeFor(act, now))
    .where(and(...own));
  await tellPeople(db, [viewer.personId]);
}

function changeFor(act: AlertAct, now: number): Partial<typeof alert.$inferInsert> {
  switch (act.kind) {
    case "read":
      return { readAt: now };
    case "unread":
      return { readAt: null, doneAt: null, laterUntil: null };
    case "done":
      return { readAt: now, doneAt: now, laterUntil: null };
    case "bring back":
      return { doneAt: null, laterUntil: null };
    case "later":
      return { readAt: null, doneAt: null, laterUntil: act.until };
  }
}
