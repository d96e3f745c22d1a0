import { and, eq, gte, inArray, isNull, sql } from "drizzle-orm";
import { belongsTo, closesAt, LONGEST_TOGETHER, STILL_TOGETHER } from "@/core/alerts/together";
import { isStandardRule, standardRule } from "@/core/alerts/standard-rules";
import { waysTogether, type Digest, type Ways } from "@/core/alerts/ways";
import type { Transaction } from "@/db/connection";
import { alert, alertPart } from "@/db/schema";
import { tellPeople } from "../people/tell-people";
import { waysOf, type WaysOf } from "./choices";
import { v7 as newId } from "uuid";

/** What one person is to be told of an item. */
export interface Told {
  personId: string;
  rules: readonly string[];
  /** Steps of the item's history. */
  seqs?: readonly number[];
  /** What is said where that stands in no history. */
  said?: string;
  otherIds?: readonly string[];
}

type Row = typeof alert.$inferSelect;

/**
 * Keeps what people are told of an item, as they want to hear it: with an alert that is still open,
 * or as a new one. Whoever has turned all its rules off is not told.
 * @param of the item, and whether it is expedite
 */
export async function keepAlerts(
  tx: Transaction,
  of: { itemId: string; expedite: boolean },
  told: readonly Told[],
  at: number,
): Promise<void> {
  const ways = await waysOf(
    tx,
    told.map(({ personId }) => personId),
    told.flatMap(({ rules }) => rules),
  );
  const wanted = told
    .map((one) => ({
      ...one,
      rules: one.rules.filter((rule) => !ways(one.personId, rule).off),
      ways: wantedWays(ways, of.expedite, one),
    }))
    .filter((one) => one.ways !== null)
    // In one order everywhere, so that two that tell the same people do not wait for each other.
    .toSorted((a, b) => (a.personId < b.personId ? -1 : 1));
  if (wanted.length === 0) return;
  const open = await openAlerts(
    tx,
    of.itemId,
    wanted.map(({ personId }) => personId),
    at,
  );
  for (const one of wanted) {
    const alertId = await keepOne({ tx, itemId: of.itemId, at, ways: one.ways!, open, one });
    await tx.insert(alertPart).values({
      alertId,
      id: newId(),
      at,
      seqs: [...(one.seqs ?? [])],
      rules: [...one.rules],
      said: one.said ?? null,
      otherIds: [...(one.otherIds ?? [])],
    });
  }
  await tellPeople(
    tx,
    wanted.map(({ personId }) => personId),
  );
}

interface Wanted extends Omit<Ways, "off"> {
  urgent: boolean;
}

/** How one person wants to hear; what is expedite goes by the rule for that, where it is sooner. */
function wantedWays(ways: WaysOf, expedite: boolean, { personId, rules }: Told): Wanted | null {
  const own = rules.map((rule) => ways(personId, rule));
  const together = waysTogether(own);
  if (!together) return null;
  const merely = rules.every((rule) => rule === "follows");
  const haste = ways(personId, "expedite");
  const hurried = expedite && !merely && !haste.off && haste.mail === "at once";
  const urgent =
    hurried || rules.some((rule) => isStandardRule(rule) && standardRule(rule).urgent === true);
  return { ...together, mail: hurried ? "at once" : together.mail, urgent };
}

/** Alerts of an item to which something can still come, by their person. */
async function openAlerts(
  tx: Transaction,
  itemId: string,
  personIds: readonly string[],
  at: number,
): Promise<Map<string, Row>> {
  const rows = await tx
    .select()
    .from(alert)
    .where(
      and(
        eq(alert.itemId, itemId),
        inArray(alert.personId, [...personIds]),
        gte(alert.lastAt, at - STILL_TOGETHER),
        gte(alert.firstAt, at - LONGEST_TOGETHER),
        isNull(alert.mailedAt),
        isNull(alert.digestedAt),
        isNull(alert.doneAt),
        isNull(alert.laterUntil),
      ),
    )
    .orderBy(alert.personId, alert.lastAt)
    .for("update");
  return new Map(rows.filter((row) => belongsTo(row, at)).map((row) => [row.personId, row]));
}

/** @returns the alert that it belongs to now */
async function keepOne({
  tx,
  itemId,
  at,
  ways,
  open,
  one,
}: {
  tx: Transaction;
  itemId: string;
  at: number;
  ways: Wanted;
  open: ReadonlyMap<string, Row>;
  one: Told;
}): Promise<string> {
  const before = open.get(one.personId);
  const stretch = { firstAt: before?.firstAt ?? at, lastAt: Math.max(before?.lastAt ?? at, at) };
  const byMail = ways.mail === "at once" || (before?.mailDueAt ?? null) !== null;
  const row = {
    ...stretch,
    readAt: null,
    urgent: ways.urgent || (before?.urgent ?? false),
    mailDueAt: byMail ? closesAt(stretch) : null,
    digest: byMail ? null : soonest(before?.digest ?? null, ways.mail),
    inFeed: ways.feed || (before?.inFeed ?? false),
  };
  if (before) {
    await tx.update(alert).set(row).where(eq(alert.id, before.id));
    return before.id;
  }
  const id = newId();
  await tx.insert(alert).values({ id, personId: one.personId, itemId, ...row });
  return id;
}

function soonest(before: Digest | null, way: Ways["mail"]): Digest | null {
  if (before === "morning" || way === "morning") return "morning";
  return before === "weekly" || way === "weekly" ? "weekly" : null;
}

/** Whether an alert is to be looked at, as a condition on the rows of `alert`. */
export const isFresh = (now: number) =>
  sql`(${alert.readAt} is null and ${alert.doneAt} is null
    and (${alert.laterUntil} is null or ${alert.laterUntil} <= ${new Date(now).toISOString()}::timestamptz))`;
