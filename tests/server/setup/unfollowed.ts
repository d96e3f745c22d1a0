import { sql } from "drizzle-orm";
import { database } from "@/db/connection";
import { domainEvent, eventConsumer, eventShelf } from "@/db/schema";

/** How many events some consumer has not come to yet; what lies on a shelf is not among them. */
export async function unfollowed(): Promise<number> {
  const { rows } = await database().execute(sql`
    select count(*)::int as n from ${domainEvent} e, ${eventConsumer} c
    where (e.tx, e.id) > (c.tx, c.event_id)`);
  return Number(rows[0].n);
}

/** What lies on the consumers' shelves. */
export const shelved = () =>
  database()
    .select({ itemId: domainEvent.itemId, tries: eventShelf.tries, nextAt: eventShelf.nextAt })
    .from(eventShelf)
    .innerJoin(domainEvent, sql`${domainEvent.id} = ${eventShelf.eventId}`);

/** Lets consumers begin after, or before, everything that has happened. */
export async function placeConsumers(where: "at the end" | "at the beginning"): Promise<void> {
  await database().execute(
    where === "at the beginning"
      ? sql`update ${eventConsumer} set tx = '0', event_id = 0`
      : sql`update ${eventConsumer} set
          tx = coalesce((select e.tx from ${domainEvent} e order by e.tx desc limit 1), '0'),
          event_id = ${Number.MAX_SAFE_INTEGER}`,
  );
}
