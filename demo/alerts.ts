import { and, asc, gt, isNotNull, lt, sql } from "drizzle-orm";
import { DAY, HOUR, type Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import { alertPeople } from "@/server/alerts/engine";

/** So far back people find what they were told. */
const TOLD_DAYS = 3;

/**
 * What people of the demo are told: what happened on the last days goes through the same engine as
 * what happens from now on. What is older than a day was read, and its mail is long gone.
 */
export async function loadAlerts(tx: Transaction, now: Instant): Promise<void> {
  await loadFollowers(tx);
  await loadOwnRules(tx, now);
  const { itemId, seq, at, actorId, commandId } = table.itemEvent;
  const commands = await tx
    .select({
      itemId,
      fromVersion: sql<number>`min(${seq}) - 1`.mapWith(Number),
      version: sql<number>`max(${seq})`.mapWith(Number),
      at: sql<number>`max(extract(epoch from ${at}) * 1000)`.mapWith(Number),
      byId: sql<string | null>`min(${actorId})`,
    })
    .from(table.itemEvent)
    .where(gt(at, now - TOLD_DAYS * DAY))
    .groupBy(itemId, commandId)
    .orderBy(asc(sql`max(${at})`), asc(itemId), asc(sql`min(${seq})`));
  for (const one of commands) await alertPeople(tx, one, Math.round(one.at));
  await tx
    .update(table.alert)
    .set({ mailedAt: now })
    .where(and(isNotNull(table.alert.mailDueAt), lt(table.alert.lastAt, now - HOUR)));
  await tx
    .update(table.alert)
    .set({ readAt: sql`${table.alert.lastAt} + interval '2 hours'`, digestedAt: now })
    .where(lt(table.alert.lastAt, now - DAY));
}

/** Whoever has to do with an item follows it. */
async function loadFollowers(tx: Transaction): Promise<void> {
  const { item, comment, follow } = table;
  const on = sql`true`;
  const rows = [
    sql`select ${item.assigneeId}, 'item', ${item.id}::text, ${on}, 'was given it', ${item.updatedAt}
      from ${item} where ${item.assigneeId} is not null and ${item.withdrawnAt} is null`,
    sql`select ${item.reviewerId}, 'item', ${item.id}::text, ${on}, 'reviews it', ${item.updatedAt}
      from ${item} where ${item.reviewerId} is not null and ${item.withdrawnAt} is null`,
    sql`select ${comment.authorId}, 'item', ${comment.itemId}::text, ${on}, 'talked about it',
      min(${comment.at}) from ${comment} where ${comment.authorId} is not null
      group by ${comment.authorId}, ${comment.itemId}`,
  ];
  for (const some of rows)
    await tx.execute(sql`insert into ${follow} (person_id, kind, target, "on", why, since)
      ${some} on conflict do nothing`);
}

/** Rules that people made for themselves, beside those that everybody begins with. */
async function loadOwnRules(tx: Transaction, now: Instant): Promise<void> {
  const rule = {
    typeIds: [],
    fields: [],
    by: { kind: "anybody" as const },
    condition: null,
    off: false,
    mail: "none" as const,
    feed: true,
    madeAt: now - 40 * DAY,
  };
  await tx.insert(table.alertRule).values([
    {
      ...rule,
      id: "01940000-0000-7000-8000-000000000001",
      personId: "ines",
      name: "Bugs that come back",
      projectId: "tix",
      typeIds: ["bug"],
      happens: ["sent back", "reopened"],
      mail: "morning",
    },
    {
      ...rule,
      id: "01940000-0000-7000-8000-000000000002",
      personId: "ines",
      name: "Urgent and stuck",
      projectId: "tix",
      happens: ["blocked"],
      condition: { kind: "compare", fact: "priority", op: "is", value: "urgent" },
      mail: "at once",
    },
    {
      ...rule,
      id: "01940000-0000-7000-8000-000000000003",
      personId: "noor",
      name: "What Ivo finishes",
      projectId: "tix",
      happens: ["finished"],
      by: { kind: "people", ids: ["ivo"] },
      mail: "weekly",
    },
  ]);
}
