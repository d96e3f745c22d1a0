import { and, isNotNull, lt } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import { outbox, rateCount, receivedEvent, signedInFrom, workerPulse } from "@/db/schema";

/** Says that the worker is alive, for the health page. */
export async function beat(now = Date.now()): Promise<void> {
  await database()
    .insert(workerPulse)
    .values({ id: 1, at: now })
    .onConflictDoUpdate({ target: workerPulse.id, set: { at: now } });
}

/** How long handled outbox rows are kept for streams that catch up. */
const OUTBOX_KEPT = 7 * DAY;

/** How long it is remembered where somebody signed in from. */
const ADDRESSES_KEPT = 180 * DAY;

/** Throws away what nobody needs any more. */
export async function clearOld(now = Date.now()): Promise<void> {
  await database()
    .delete(outbox)
    .where(and(isNotNull(outbox.doneAt), lt(outbox.doneAt, now - OUTBOX_KEPT)));
  await database()
    .delete(receivedEvent)
    .where(lt(receivedEvent.at, now - OUTBOX_KEPT));
  await database()
    .delete(signedInFrom)
    .where(lt(signedInFrom.lastAt, new Date(now - ADDRESSES_KEPT)));
  await database()
    .delete(rateCount)
    .where(lt(rateCount.windowStart, now - DAY));
}
