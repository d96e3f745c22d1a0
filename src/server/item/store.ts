import { and, eq, isNull } from "drizzle-orm";
import type { ItemEvent } from "@/core/item/event";
import { changesCounts } from "@/core/item/event-counts";
import type { ItemSnapshot } from "@/core/item/fields";
import { applyEvent, blocksOf, staysOf } from "@/core/item/snapshot";
import { namesOutcome } from "@/core/item/start-finish";
import type { Transaction } from "@/db/connection";
import { block, comment, item, itemEvent, itemLink, stay } from "@/db/schema";
import { announce } from "../events/announce";
import { eventOf, eventRow } from "./rows";

/**
 * Stores events: the new snapshot, the history, the stays and blocks that measures read, and what
 * is told of them, all in the caller's transaction. The one place that writes any of them.
 * @returns the snapshot after the events
 * @param depth how many moves in a row happened by themselves, for what these events set off
 */
export async function storeEvents(
  tx: Transaction,
  before: ItemSnapshot | null,
  events: readonly ItemEvent[],
  depth = 0,
): Promise<ItemSnapshot> {
  if (events.length === 0) {
    if (!before) throw new Error("nothing to store");
    return before;
  }
  const steps = snapshotsAfter(before, events);
  const after = steps.at(-1)!;
  if (before) await tx.update(item).set(differences(before, after)).where(eq(item.id, after.id));
  else await tx.insert(item).values(after);
  await tx.insert(itemEvent).values(events.map(eventRow));
  for (const [i, event] of events.entries()) await storeConsequence(tx, event, steps[i]);
  if (events.some((e) => e.kind === "undone")) await rebuildIntervals(tx, after.id);
  await announce(
    tx,
    after.projectId,
    {
      kind: "item changed",
      data: {
        itemId: after.id,
        fromVersion: before?.version ?? 0,
        version: after.version,
        kinds: [...new Set(events.map((e) => e.kind))],
        counts: changesCounts(events),
        depth,
      },
    },
    after.updatedAt,
  );
  return after;
}

/** The snapshot after each of some events. */
function snapshotsAfter(before: ItemSnapshot | null, events: readonly ItemEvent[]): ItemSnapshot[] {
  let snapshot = before;
  return events.map((event) => (snapshot = applyEvent(snapshot, event)));
}

/** After an undone step an item's stays and blocks are what its history amounts to without it. */
async function rebuildIntervals(tx: Transaction, itemId: string): Promise<void> {
  const events = (
    await tx.select().from(itemEvent).where(eq(itemEvent.itemId, itemId)).orderBy(itemEvent.seq)
  ).map(eventOf);
  await tx.delete(stay).where(eq(stay.itemId, itemId));
  await tx.insert(stay).values(
    staysOf(events).map(({ enteredSeq, stateId, kind, outcome, from, to }) => ({
      itemId,
      enteredSeq,
      stateId,
      kind,
      outcome,
      enteredAt: from,
      leftAt: to,
    })),
  );
  await tx.delete(block).where(eq(block.itemId, itemId));
  const blocks = blocksOf(events);
  if (blocks.length > 0)
    await tx.insert(block).values(
      blocks.map(({ blockId, cause, waitingFor, byId, from, to }) => ({
        id: blockId,
        itemId,
        cause,
        waitingFor,
        byId,
        fromAt: from,
        liftedAt: to,
      })),
    );
}

/** Only the columns that differ; the version always does. */
function differences(before: ItemSnapshot, after: ItemSnapshot): Partial<ItemSnapshot> {
  return Object.fromEntries(
    Object.entries(after).filter(([field, value]) => before[field as keyof ItemSnapshot] !== value),
  );
}

/** @param after the item right after this event */
async function storeConsequence(
  tx: Transaction,
  event: ItemEvent,
  after: ItemSnapshot,
): Promise<void> {
  const { itemId, at } = event;
  const leave = () =>
    tx
      .update(stay)
      .set({ leftAt: at })
      .where(and(eq(stay.itemId, itemId), isNull(stay.leftAt)));
  switch (event.kind) {
    case "created":
      await tx.insert(stay).values({
        itemId,
        enteredSeq: event.seq,
        stateId: event.new.stateId,
        kind: event.new.stateKind,
        enteredAt: at,
      });
      return;
    case "moved":
      await leave();
      await tx.insert(stay).values({
        itemId,
        enteredSeq: event.seq,
        stateId: event.new.stateId,
        kind: event.new.kind,
        outcome: event.new.kind === "finished" ? after.outcome : null,
        enteredAt: at,
      });
      return;
    case "withdrawn":
      await leave();
      return;
    case "commented":
      await tx.insert(comment).values({
        id: event.new.commentId,
        itemId,
        authorId: event.actorId,
        body: event.new.body,
        at,
      });
      return;
    case "blocked":
      await tx.insert(block).values({
        id: event.new.blockId,
        itemId,
        cause: event.new.cause,
        waitingFor: event.new.waitingFor,
        byId: event.actorId,
        fromAt: at,
      });
      return;
    case "lifted":
      await tx.update(block).set({ liftedAt: at }).where(eq(block.id, event.old.blockId));
      return;
    case "linked": {
      if (!event.new.outward) return;
      await tx.insert(itemLink).values({
        id: event.new.linkId,
        fromItemId: after.id,
        toItemId: event.new.otherId,
        kind: event.new.kind,
      });
      return;
    }
    case "unlinked":
      if (event.old.outward) await tx.delete(itemLink).where(eq(itemLink.id, event.old.linkId));
      return;
    case "changed":
      if (
        event.field === "outcome" &&
        after.stateKind === "finished" &&
        namesOutcome(after.enteredStateAt, at, after.outcome)
      )
        await tx
          .update(stay)
          .set({ outcome: after.outcome })
          .where(and(eq(stay.itemId, itemId), isNull(stay.leftAt)));
      return;
    case "undone":
    case "own changed":
    case "put under":
    case "reported":
    case "held":
    case "ranked":
    case "overrode":
      return;
  }
}
