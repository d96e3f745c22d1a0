import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { MOST_PINS, type PinRequest } from "@/core/item/pins/contract";
import type { Pin } from "@/core/item/pins/pin";
import type { Instant } from "@/core/calendar/instant";
import { database, type Reader, type Transaction } from "@/db/connection";
import { item, pin, project, state } from "@/db/schema";
import { seesItem, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";

/** What somebody has pinned, in their order; what they may not see any more is left out. */
export async function readPins(viewer: Viewer, reader: Reader = database()): Promise<Pin[]> {
  const rows = await reader
    .select({
      id: item.id,
      projectKey: project.key,
      number: item.number,
      title: item.title,
      typeId: item.typeId,
      stateName: state.name,
      stateKind: item.stateKind,
    })
    .from(pin)
    .innerJoin(item, eq(item.id, pin.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .where(
      and(
        eq(pin.personId, viewer.personId),
        isNull(item.withdrawnAt),
        visibleTo(reader, viewer),
        seesItem(reader, viewer),
      ),
    )
    .orderBy(asc(pin.place), asc(pin.at), asc(pin.itemId));
  return rows.map(({ projectKey, number, ...told }) => ({
    ...told,
    key: `${projectKey}-${number}`,
  }));
}

/** Changes one's own pins; nobody else sees them. @throws Refused */
export async function changePins(
  viewer: Viewer,
  asked: PinRequest,
  now: Instant = Date.now(),
): Promise<Pin[]> {
  return database().transaction(async (tx) => {
    // One person's changes come one after another, in whichever windows they make them.
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended(${`pins of ${viewer.personId}`}::text, 0))`,
    );
    await change(tx, viewer, asked, now);
    return readPins(viewer, tx);
  });
}

const own = ({ personId }: Viewer, itemId: string) =>
  and(eq(pin.personId, personId), eq(pin.itemId, itemId));

async function change(
  tx: Transaction,
  viewer: Viewer,
  asked: PinRequest,
  now: Instant,
): Promise<void> {
  switch (asked.kind) {
    case "pin":
      return add(tx, viewer, asked.itemId, now);
    case "unpin":
      return void (await tx.delete(pin).where(own(viewer, asked.itemId)));
    case "order":
      for (const [place, itemId] of asked.ids.entries())
        await tx.update(pin).set({ place }).where(own(viewer, itemId));
  }
}

/** A new one stands last. */
async function add(tx: Transaction, viewer: Viewer, itemId: string, at: Instant): Promise<void> {
  const [seen] = await tx
    .select({ id: item.id })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        eq(item.id, itemId),
        isNull(item.withdrawnAt),
        visibleTo(tx, viewer),
        seesItem(tx, viewer),
      ),
    );
  if (!seen) throw notFound("item");
  const { personId } = viewer;
  const [{ count, last }] = await tx
    .select({
      count: sql<number>`count(*)::int`,
      last: sql<number>`coalesce(max(${pin.place}), -1)::int`,
    })
    .from(pin)
    .where(eq(pin.personId, personId));
  if (count >= MOST_PINS)
    throw invalid(`You have ${count} pins already.`, "Take some out that you need no more.");
  await tx
    .insert(pin)
    .values({ personId, itemId, place: last + 1, at })
    .onConflictDoNothing();
}
