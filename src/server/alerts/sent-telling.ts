import { and, eq, isNull } from "drizzle-orm";
import type { ToldOfItem } from "@/core/alerts/letter";
import { database } from "@/db/connection";
import { person, type alert } from "@/db/schema";
import { namedItems } from "../item/list/named";
import { appAddress } from "../mail/settings";
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
  const items = await namedItems(
    viewer,
    alerts.map(({ itemId }) => itemId),
  );
  const seen = alerts.filter(
    ({ itemId, personId }) => items.has(itemId) && personId === viewer.personId,
  );
  const telling = await tellingOf(viewer, seen);
  const told = new Map<string, ToldOfItem>();
  for (const { id, itemId } of seen) {
    const { key: itemKey, title, projectKey, projectName, stateName } = items.get(itemId)!;
    const { why = [], lines = [] } = telling.get(id) ?? {};
    const page = appAddress(`/p/${projectKey}/items/${itemKey}`);
    if (lines.length > 0)
      told.set(id, { title, projectName, stateName, itemKey, why, lines, page });
  }
  return told;
}
