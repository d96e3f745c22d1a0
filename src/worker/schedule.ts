import { and, eq, isNotNull, lt, lte, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { UNJUDGED } from "@/core/intake/report";
import { database, transact } from "@/db/connection";
import { outbox, project, rateCount, receivedEvent, report, workerPulse } from "@/db/schema";

/** Says that the worker is alive, for the health page. */
export async function beat(now = Date.now()): Promise<void> {
  await database().insert(workerPulse).values({ id: 1, at: now }).onConflictDoUpdate({ target: workerPulse.id, set: { at: now } });
}

/** Brings parked reports back to the queue on their day, by the calendar of their project. */
export async function wakeParkedReports(now = Date.now()): Promise<number> {
  return transact(async (tx) => {
    let woken = 0;
    for (const { id, zone } of await tx.select({ id: project.id, zone: project.zone }).from(project)) {
      const due = await tx
        .update(report)
        .set({ ...UNJUDGED, returnedAt: now, version: sql`${report.version} + 1` })
        .where(and(eq(report.projectId, id), eq(report.status, "parked"), lte(report.parkedUntil, isoDate(dayNumber(now, zone)))))
        .returning({ id: report.id });
      for (const { id: reportId } of due) await tx.insert(outbox).values({ projectId: id, at: now, kind: "intake", reportId });
      woken += due.length;
    }
    return woken;
  });
}

/** How long handled outbox rows are kept for streams that catch up. */
const OUTBOX_KEPT = 7 * DAY;

/** Throws away what nobody needs any more. */
export async function clearOld(now = Date.now()): Promise<void> {
  await database().delete(outbox).where(and(isNotNull(outbox.doneAt), lt(outbox.doneAt, now - OUTBOX_KEPT)));
  await database().delete(receivedEvent).where(lt(receivedEvent.at, now - OUTBOX_KEPT));
  await database().delete(rateCount).where(lt(rateCount.windowStart, now - DAY));
}
