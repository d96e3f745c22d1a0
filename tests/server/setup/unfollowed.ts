import { eq, sql } from "drizzle-orm";
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

/** Lets consumers begin after everything that has happened. */
export async function placeConsumersAtTheEnd(): Promise<void> {
  await database().execute(sql`
    update ${eventConsumer} set
      tx = coalesce((select e.tx from ${domainEvent} e order by e.tx desc limit 1), '0'),
      event_id = ${Number.MAX_SAFE_INTEGER}`);
}

/** How far each consumer has come, to be put back there as after a crash before it was noted. */
export async function rememberPlaces(): Promise<() => Promise<void>> {
  const places = await database().select().from(eventConsumer);
  return async () => {
    for (const { name, tx, eventId } of places)
      await database()
        .update(eventConsumer)
        .set({ tx, eventId })
        .where(eq(eventConsumer.name, name));
  };
}
