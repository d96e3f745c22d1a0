import { and, asc, eq, inArray } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { smallZigzag, type SmallStretch } from "@/core/flow/small-zigzag";
import { zigzag } from "@/core/flow/zigzag";
import { grouped } from "@/core/item/grouped";
import { readiesOf } from "@/core/item/snapshot";
import { block, item, itemEvent, stay } from "@/db/schema";
import { readEvents } from "../history";
import type { ListOf } from "./read";

/** The small lines of those items of a list that are in progress, by item. */
export async function readZigzags(
  { reader, where }: Pick<ListOf, "reader" | "where">,
  now: Instant,
): Promise<ReadonlyMap<string, SmallStretch[]>> {
  const inProgress = inArray(item.stateKind, ["waiting", "working"]);
  const ids = reader.select({ id: item.id }).from(item).where(and(where, inProgress));
  const everReady = reader
    .select({ id: itemEvent.itemId })
    .from(itemEvent)
    .where(and(inArray(itemEvent.itemId, ids), eq(itemEvent.kind, "marked ready")));
  const [stays, blocks, events] = await Promise.all([
    reader
      .select({
        itemId: stay.itemId,
        stateId: stay.stateId,
        kind: stay.kind,
        outcome: stay.outcome,
        from: stay.enteredAt,
        to: stay.leftAt,
      })
      .from(stay)
      .where(inArray(stay.itemId, ids))
      .orderBy(asc(stay.itemId), asc(stay.enteredSeq)),
    reader
      .select({ itemId: block.itemId, from: block.fromAt, to: block.liftedAt })
      .from(block)
      .where(inArray(block.itemId, ids)),
    // How long an item was ready only its history says, and only few ever were.
    readEvents(reader, inArray(itemEvent.itemId, everReady)),
  ]);
  const [blocksOf, eventsOf] = [
    grouped(blocks, ({ itemId }) => itemId),
    grouped(events, ({ itemId }) => itemId),
  ];
  const lines = [...grouped(stays, ({ itemId }) => itemId)].map(([id, its]) => {
    const readies = readiesOf(eventsOf.get(id) ?? []);
    const line = zigzag({ stays: its, blocks: blocksOf.get(id) ?? [], readies }, now);
    return [id, smallZigzag(line)] as const;
  });
  return new Map(lines);
}
