import { and, asc, eq, isNotNull, lte, sql } from "drizzle-orm";
import { readEvent, type DomainEvent, type EventKind } from "@/core/events/catalogue";
import { database, isUnreachable, transact, type Transaction } from "@/db/connection";
import { domainEvent, eventConsumer, eventShelf } from "@/db/schema";
import { log, traced } from "../log";

/** Somebody who does what follows from events, at their own pace. */
export interface Consumer {
  name: string;
  kinds: readonly EventKind[];
  /** Of those kinds, whether an event can have anything follow; where it is not asked, each can. */
  concerns?: (event: DomainEvent) => boolean;
  /**
   * Does what follows from an event. What it stores by `tx` is stored together with how far the
   * consumer has come; what it does otherwise must bear being done again.
   */
  follow: (tx: Transaction, event: DomainEvent, now: number) => Promise<void>;
  /** That it stores nothing by `tx`: there is nothing to take back then where it fails. */
  apart?: true;
}

const BATCH = 100;
const LONGEST_PAUSE = 3_600_000;
/** About half a day with growing pauses; then the event stays on the shelf until somebody looks. */
const MOST_TRIES = 20;

/**
 * Goes on from where a consumer has come to, and tries what could not be done before and is due.
 * Several workers may run; one of them at a time goes on with a consumer.
 * @returns how many events were looked at
 */
export async function goOn(consumer: Consumer, now = Date.now()): Promise<number> {
  return (await goForward(consumer, now)) + (await tryAgain(consumer, now));
}

/**
 * Events in the order of the transactions that wrote them. Only those of transactions before every
 * one that still runs are read: behind them nothing comes in any more.
 */
async function goForward(consumer: Consumer, now: number): Promise<number> {
  return transact(async (tx) => {
    const [at] = await tx
      .select()
      .from(eventConsumer)
      .where(eq(eventConsumer.name, consumer.name))
      .for("update", { skipLocked: true });
    if (!at) return 0;
    const rows = await tx
      .select()
      .from(domainEvent)
      .where(
        and(
          sql`(${domainEvent.tx}, ${domainEvent.id}) > (${at.tx}::xid8, ${at.eventId})`,
          sql`${domainEvent.tx} < pg_snapshot_xmin(pg_current_snapshot())`,
        ),
      )
      .orderBy(asc(domainEvent.tx), asc(domainEvent.id))
      .limit(BATCH);
    for (const row of rows) {
      const failure = await followed({ tx, consumer, row, now });
      if (failure)
        await tx.insert(eventShelf).values({
          consumer: consumer.name,
          eventId: row.id,
          tries: 1,
          nextAt: now + pauseAfter(1),
          failure,
        });
    }
    const last = rows.at(-1);
    if (last)
      await tx
        .update(eventConsumer)
        .set({ tx: last.tx, eventId: last.id })
        .where(eq(eventConsumer.name, consumer.name));
    return rows.length;
  });
}

/** One event that cannot be followed up keeps no other waiting. */
async function tryAgain(consumer: Consumer, now: number): Promise<number> {
  return transact(async (tx) => {
    const due = await tx
      .select({ tries: eventShelf.tries, event: domainEvent })
      .from(eventShelf)
      .innerJoin(domainEvent, eq(domainEvent.id, eventShelf.eventId))
      .where(
        and(
          eq(eventShelf.consumer, consumer.name),
          isNotNull(eventShelf.nextAt),
          lte(eventShelf.nextAt, now),
        ),
      )
      .orderBy(asc(eventShelf.eventId))
      .limit(BATCH)
      .for("update", { of: eventShelf, skipLocked: true });
    for (const { tries, event } of due) {
      const mine = and(eq(eventShelf.consumer, consumer.name), eq(eventShelf.eventId, event.id));
      const failure = await followed({ tx, consumer, row: event, now, tries: tries + 1 });
      if (!failure) await tx.delete(eventShelf).where(mine);
      else
        await tx
          .update(eventShelf)
          .set({
            tries: tries + 1,
            nextAt: tries + 1 >= MOST_TRIES ? null : now + pauseAfter(tries + 1),
            failure,
          })
          .where(mine);
    }
    return due.length;
  });
}

const pauseAfter = (tries: number) => Math.min(LONGEST_PAUSE, 1_000 * 2 ** (tries - 1));

/** Why an event could not be followed up; null where it was, or concerns the consumer not. */
async function followed({
  tx,
  consumer,
  row,
  now,
  tries = 1,
}: {
  tx: Transaction;
  consumer: Consumer;
  row: typeof domainEvent.$inferSelect;
  now: number;
  tries?: number;
}): Promise<Record<string, unknown> | null> {
  if (!consumer.kinds.includes(row.kind)) return null;
  try {
    const event = readEvent(row);
    if (!event || consumer.concerns?.(event) === false) return null;
    if (consumer.apart) await consumer.follow(tx, event, now);
    else await tx.transaction((inner) => consumer.follow(inner, event, now));
    return null;
  } catch (error) {
    if (isUnreachable(error)) throw error;
    const failure = { ...traced(error) };
    const { name } = consumer;
    const { id: eventId, itemId, reportId } = row;
    log.error(
      { ...failure, consumer: name, eventId, itemId, reportId, tries },
      tries >= MOST_TRIES ? "an event was given up" : "an event could not be followed up",
    );
    return failure;
  }
}

/**
 * Makes sure that consumers have their place. The migration that comes with a consumer gives it
 * one, because it knows whether what happened before is the consumer's to follow.
 * @throws Error naming one that has none
 */
export async function checkPlaces(consumers: readonly Consumer[]): Promise<void> {
  const rows = await database().select({ name: eventConsumer.name }).from(eventConsumer);
  const without = consumers.find((c) => !rows.some((r) => r.name === c.name));
  if (without) throw new Error(`consumer "${without.name}" has no place: a migration gives it one`);
}
