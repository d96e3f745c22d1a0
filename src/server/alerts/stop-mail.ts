import { and, eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { alert, mailStopped, person } from "@/db/schema";
import type { Viewer } from "../people/viewer";
import { namedItems, seenOf } from "../item/list/named";
import { notFound } from "../refused";
import { idOfToken } from "./signed-token";

interface Stoppable {
  personId: string;
  itemId: string;
}

async function ofToken(token: string): Promise<Stoppable> {
  const id = idOfToken("stop mail about an item", token);
  const [row] =
    id === null
      ? []
      : await database()
          .select({ personId: alert.personId, itemId: alert.itemId })
          .from(alert)
          .innerJoin(person, eq(person.id, alert.personId))
          .where(eq(alert.id, id));
  if (!row) throw notFound("address");
  return row;
}

/**
 * Stops the mails about the item of an alert, for the person that it was written to. It names
 * neither: whoever has the address does not have to be signed in (RFC 8058).
 */
export async function stopMailByToken(token: string, now = Date.now()): Promise<void> {
  const { personId, itemId } = await ofToken(token);
  await database().insert(mailStopped).values({ personId, itemId, at: now }).onConflictDoNothing();
}

/** Whether such an address is one of ours, and whether mail is stopped by it already. */
export async function stoppedByToken(token: string): Promise<boolean> {
  const { personId, itemId } = await ofToken(token);
  const rows = await database()
    .select()
    .from(mailStopped)
    .where(and(eq(mailStopped.personId, personId), eq(mailStopped.itemId, itemId)));
  return rows.length > 0;
}

/** Stops the mails about an item, or lets them come again, for oneself. */
export async function setMailStopped(
  viewer: Viewer,
  { itemId, on }: { itemId: string; on: boolean },
  now = Date.now(),
): Promise<void> {
  const { personId } = viewer;
  const db = database();
  if (!(await seenOf(viewer, [itemId])).has(itemId)) throw notFound("item");
  if (on) await db.insert(mailStopped).values({ personId, itemId, at: now }).onConflictDoNothing();
  else
    await db
      .delete(mailStopped)
      .where(and(eq(mailStopped.personId, personId), eq(mailStopped.itemId, itemId)));
}

/** Items of which a person wants no mail, by the key of each that they may see. */
export async function stoppedItems(
  viewer: Viewer,
): Promise<{ id: string; key: string; title: string }[]> {
  const rows = await database()
    .select({ id: mailStopped.itemId })
    .from(mailStopped)
    .where(eq(mailStopped.personId, viewer.personId));
  const items = await namedItems(
    viewer,
    rows.map(({ id }) => id),
  );
  return [...items.values()]
    .filter(({ withdrawn }) => !withdrawn)
    .map(({ id, key, title }) => ({ id, key, title }));
}
