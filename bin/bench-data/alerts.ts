import { and, eq, gt, inArray, sql } from "drizzle-orm";
import { database, transact } from "@/db/connection";
import { alert, alertPart, follow, item, itemEvent } from "@/db/schema";
import { alertPeople } from "@/server/alerts/engine";
import { tellPeople } from "@/server/people/tell-people";
import { v7 as newId } from "uuid";
import { giveOwnRules } from "./own-rules";
import { timed, type Row } from "./row";

const EVENTS = 400;
/** So many follow each of the items. */
const FOLLOWERS = 8;

const mean = (times: readonly number[]) => times.reduce((a, b) => a + b, 0) / times.length;

/**
 * Telling people of one event each, beside storing as many alerts alone; with people's own rules
 * about other things held against each.
 */
export async function tellOfEvents(): Promise<Row> {
  const db = database();
  await giveOwnRules();
  const events = await db
    .select({ itemId: itemEvent.itemId, seq: itemEvent.seq, byId: itemEvent.actorId })
    .from(itemEvent)
    .innerJoin(item, eq(item.id, itemEvent.itemId))
    .where(and(inArray(itemEvent.kind, ["moved", "changed"]), gt(itemEvent.seq, 1)))
    .limit(EVENTS);
  for (const { itemId } of events)
    for (let i = 0; i < FOLLOWERS; i++)
      await db
        .insert(follow)
        .values({
          personId: `p${20 + i}`,
          kind: "item",
          target: itemId,
          on: true,
          why: "chosen",
          since: 0,
        })
        .onConflictDoNothing();
  let at = Date.now();
  const ours = await timed(events.length, (i) => {
    const { itemId, seq, byId } = events[i];
    // Each an alert of its own.
    at += 3_600_000;
    return transact((tx) =>
      alertPeople(tx, { itemId, fromVersion: seq - 1, version: seq, byId }, at),
    );
  });
  const [{ told }] = await db.select({ told: sql<number>`count(*)::int` }).from(alert);
  const each = Math.max(1, Math.round(told / events.length));
  const bare = await timed(events.length, (i) =>
    transact(async (tx) => {
      for (let n = 0; n < each; n++) {
        const id = newId();
        const personId = `p${40 + n}`;
        await tx
          .insert(alert)
          .values({ id, personId, itemId: events[i].itemId, firstAt: at, lastAt: at });
        await tx
          .insert(alertPart)
          .values({ alertId: id, id: newId(), at, seqs: [events[i].seq], rules: ["follows"] });
      }
      await tellPeople(
        tx,
        Array.from({ length: each }, (_, n) => `p${40 + n}`),
      );
    }),
  );
  return {
    what: `telling ${each} people of one event, mean`,
    measured: mean(ours),
    yardstick: mean(bare),
    against: "storing as many alerts, with nothing decided",
    reach: 3,
  };
}
