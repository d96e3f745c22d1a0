import { isDeepStrictEqual } from "node:util";
import { and, asc, eq, inArray, sql } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import { flowRecord } from "@/core/item/flow-record";
import { replay } from "@/core/item/snapshot";
import { historyAsCalledNow } from "@/core/item/terms/current-name";
import { database } from "@/db/connection";
import { block, timeboxMembership, domainEvent, flowPassage, item, stay } from "@/db/schema";
import { flowRows } from "./flow-rows";
import { historiesOf } from "./history";
import { snapshotOf } from "./rows";
import { termsOfProjects } from "./terms/load";

export interface CheckResult {
  items: number;
  events: number;
  findings: string[];
}

const BATCH = 500;

/**
 * Proves that what is stored agrees with itself: replaying each item's events gives its snapshot,
 * its stays, blocks and passages; events have no gaps; what was told knows the last version of each
 * item changed since it was last cleared.
 */
export async function checkItems(): Promise<CheckResult> {
  const db = database();
  const result: CheckResult = { items: 0, events: 0, findings: [] };
  const ids = (await db.select({ id: item.id }).from(item).orderBy(item.id)).map((r) => r.id);
  for (let i = 0; i < ids.length; i += BATCH) {
    const batch = ids.slice(i, i + BATCH);
    // One snapshot of the database for all four reads, so that moves made meanwhile are no
    // findings.
    await db.transaction(
      async (tx) => {
        const rows = await tx.select().from(item).where(inArray(item.id, batch));
        const histories = await historiesOf(tx, batch);
        const termsOf = await termsOfProjects(tx, [...new Set(rows.map((r) => r.projectId))]);
        const stays = grouped(
          await tx
            .select()
            .from(stay)
            .where(inArray(stay.itemId, batch))
            .orderBy(asc(stay.enteredSeq)),
          (s) => s.itemId,
        );
        const blocks = grouped(
          await tx.select().from(block).where(inArray(block.itemId, batch)),
          (b) => b.itemId,
        );
        const passages = grouped(
          await tx.select().from(flowPassage).where(inArray(flowPassage.itemId, batch)),
          (p) => p.itemId,
        );
        const memberships = grouped(
          await tx.select().from(timeboxMembership).where(inArray(timeboxMembership.itemId, batch)),
          (m) => m.itemId,
        );
        const announced = await tx
          .select({
            itemId: domainEvent.itemId,
            version: sql<number>`max((${domainEvent.data} ->> 'version')::int)`,
          })
          .from(domainEvent)
          .where(and(eq(domainEvent.kind, "item changed"), inArray(domainEvent.itemId, batch)))
          .groupBy(domainEvent.itemId);
        const announcedVersion = new Map(announced.map((a) => [a.itemId, a.version]));
        for (const row of rows) {
          result.items += 1;
          const own = historyAsCalledNow(histories.get(row.id)!, termsOf(row.projectId));
          result.events += own.length;
          const complain = (what: string) => result.findings.push(`item ${row.id}: ${what}`);
          const compare = (what: string, found: string | null) =>
            found !== null && complain(`${what} differ: ${found}`);
          try {
            compare("snapshot", difference(replay(own), snapshotOf(row), canonical));
          } catch (error) {
            complain((error as Error).message);
            continue;
          }
          const kept = {
            stays: stays.get(row.id) ?? [],
            blocks: blocks.get(row.id) ?? [],
            passages: passages.get(row.id) ?? [],
            memberships: memberships.get(row.id) ?? [],
          };
          const made = flowRows(row.id, flowRecord(own));
          for (const part of ["stays", "blocks", "passages", "memberships"] as const)
            compare(part, difference<readonly object[]>(made[part], kept[part], inOrder));
          const version = announcedVersion.get(row.id);
          const last = own.findLast((e) => e.cause !== "upgrade")!.seq;
          if (version !== undefined && version < last)
            complain(`what was told ends at version ${version}, the item is at ${last}`);
        }
      },
      { isolationLevel: "repeatable read", accessMode: "read only" },
    );
  }
  return result;
}

/** Rows as text, in an order that does not depend on when they were written. */
const inOrder = (rows: readonly object[]) => rows.map(canonical).sort().join();

/**
 * What differs between what events make and what is stored, in words; nothing where all is the same.
 * What is the same as it stands need not be written out for that.
 */
function difference<T>(made: T, kept: T, asText: (value: T) => string): string | null {
  if (isDeepStrictEqual(made, kept)) return null;
  const expected = asText(made);
  const stored = asText(kept);
  return expected === stored ? null : `by its events ${expected}, stored ${stored}`;
}

/** JSON with keys in order, so that equal values give equal texts. */
function canonical(value: unknown): string {
  return JSON.stringify(value, (_key, v) =>
    v && typeof v === "object" && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );
}
