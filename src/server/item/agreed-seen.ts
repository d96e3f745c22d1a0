import { and, eq, gt, inArray, isNull, not, or, sql } from "drizzle-orm";
import { AGREED_FIELDS, toBeSeenBy } from "@/core/item/agreed";
import type { ItemEvent } from "@/core/item/event";
import { FIELD_WORDS, type ItemSnapshot } from "@/core/item/fields";
import type { DayChange } from "@/core/today/day";
import { transact, type Reader } from "@/db/connection";
import { agreedSeen, item, itemEvent, person } from "@/db/schema";
import { announce } from "../events/announce";
import type { Viewer } from "../people/viewer";
import { seeByKey } from "./by-key";
import { wasUndone } from "./history";

/** Says that somebody has seen what was changed of what was agreed, up to an event of the item. */
export async function seeAgreed(viewer: Viewer, key: string, seq: number): Promise<void> {
  await transact(async (tx) => {
    const { before } = await seeByKey(tx, viewer, key, "read project");
    const values = { itemId: before.id, personId: viewer.personId };
    await tx
      .insert(agreedSeen)
      .values({ ...values, seq: Math.min(seq, before.version) })
      .onConflictDoUpdate({
        target: [agreedSeen.itemId, agreedSeen.personId],
        set: { seq: sql`greatest(${agreedSeen.seq}, excluded.seq)` },
      });
    const told = { kind: "talk changed", data: { itemId: before.id } } as const;
    await announce(tx, before.projectId, told);
  });
}

/** Who has an item or reviews it and has still to see what others changed of what was agreed. */
export async function unseenBy(
  reader: Reader,
  { id, assigneeId, reviewerId }: Pick<ItemSnapshot, "id" | "assigneeId" | "reviewerId">,
  history: readonly ItemEvent[],
): Promise<string[]> {
  const hands = [...new Set([assigneeId, reviewerId])].filter((one) => one !== null);
  const seen = new Map(
    (await reader.select().from(agreedSeen).where(eq(agreedSeen.itemId, id))).map((row) => [
      row.personId,
      row.seq,
    ]),
  );
  return hands.filter((personId) => toBeSeenBy(history, personId) > (seen.get(personId) ?? 0));
}

/** What was changed of what was agreed about the items that somebody works on or reviews. */
export async function readAgreedChanges(reader: Reader, viewer: Viewer): Promise<DayChange[]> {
  const me = viewer.personId;
  const rows = await reader
    .select({
      itemId: item.id,
      field: sql<
        (typeof AGREED_FIELDS)[number]
      >`(array_agg(${itemEvent.field} order by ${itemEvent.seq} desc))[1]`,
      who: sql<string | null>`(array_agg(${person.name} order by ${itemEvent.seq} desc))[1]`,
    })
    .from(item)
    .innerJoin(itemEvent, eq(itemEvent.itemId, item.id))
    .leftJoin(person, eq(person.id, itemEvent.actorId))
    .leftJoin(agreedSeen, and(eq(agreedSeen.itemId, item.id), eq(agreedSeen.personId, me)))
    .where(
      and(
        or(eq(item.assigneeId, me), eq(item.reviewerId, me)),
        inArray(item.stateKind, ["waiting", "working"]),
        isNull(item.withdrawnAt),
        eq(itemEvent.kind, "changed"),
        inArray(itemEvent.field, [...AGREED_FIELDS]),
        sql`${itemEvent.actorId} is distinct from ${me}`,
        gt(itemEvent.seq, sql`coalesce(${agreedSeen.seq}, 0)`),
        sql`${itemEvent.at} > to_timestamp((${item.clock} -> -1 ->> 'from')::float8 / 1000)`,
        not(wasUndone(reader)),
      ),
    )
    .groupBy(item.id)
    .orderBy(item.id);
  return rows.map(({ itemId, field, who }) => ({
    itemId,
    words: `${who ?? "The process"} changed the ${FIELD_WORDS[field]} since work began`,
  }));
}
