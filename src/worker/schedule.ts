import { and, lt, notExists, notInArray, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import {
  domainEvent,
  eventConsumer,
  eventShelf,
  rateCount,
  receivedEvent,
  signedInFrom,
  workerPulse,
} from "@/db/schema";
import { forgetAttempts } from "@/server/intake/form-attempt";
import { sweepFiles } from "@/server/files/store";

/** Says that the worker is alive, for the health page. */
export async function beat(now = Date.now()): Promise<void> {
  await database()
    .insert(workerPulse)
    .values({ id: 1, at: now })
    .onConflictDoUpdate({ target: workerPulse.id, set: { at: now } });
}

/** How long events are kept for streams that catch up. */
const EVENTS_KEPT = 7 * DAY;

/** How long it is remembered where somebody signed in from. */
const ADDRESSES_KEPT = 180 * DAY;

/** Throws away what nobody needs any more. */
export async function clearOld(now = Date.now()): Promise<void> {
  const db = database();
  // What a consumer has not come to yet, or could not follow up, is kept for it.
  const behind = sql`(${eventConsumer.tx}, ${eventConsumer.eventId}) < (${domainEvent.tx}, ${domainEvent.id})`;
  await db.delete(domainEvent).where(
    and(
      lt(domainEvent.at, now - EVENTS_KEPT),
      notExists(
        db
          .select({ one: sql`1` })
          .from(eventConsumer)
          .where(behind),
      ),
      notInArray(domainEvent.id, db.select({ id: eventShelf.eventId }).from(eventShelf)),
    ),
  );
  await database()
    .delete(receivedEvent)
    .where(lt(receivedEvent.at, now - EVENTS_KEPT));
  await database()
    .delete(signedInFrom)
    .where(lt(signedInFrom.lastAt, new Date(now - ADDRESSES_KEPT)));
  await database()
    .delete(rateCount)
    .where(lt(rateCount.windowStart, now - DAY));
  await forgetAttempts(now);
  await sweepFiles(now);
}
