import { and, eq, gte, isNotNull, isNull, ne, notExists, sql } from "drizzle-orm";
import { atRiskWords, isAtRisk } from "@/core/alerts/at-risk";
import { concernsTogether } from "@/core/alerts/concern";
import type { ItemSnapshot } from "@/core/item/fields";
import { ageOf } from "@/core/flow/age";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { countedClock } from "@/core/item/start-finish";
import { database, transact, type Transaction } from "@/db/connection";
import { item, project, riskTold } from "@/db/schema";
import { flowSummary } from "../flow/read";
import type { ProjectAccess } from "../people/access";
import { readIds, readRows } from "../item/list/read";
import { AUTOMATION } from "../people/viewer";
import { whoSees } from "./hearers";
import { keepAlerts } from "./keep";
import { ownConcerns } from "./own-concerns";

/** So many dates of a project are looked at in one go. */
const MOST = 500;

/**
 * Tells whoever has an item that the date it is due is at risk, once for each date.
 * @returns how many were told
 */
export async function tellRisks(now = Date.now()): Promise<number> {
  const db = database();
  const projects = await db.select().from(project);
  let told = 0;
  for (const of of projects) {
    const today = isoDate(dayNumber(now, of.zone));
    const where = and(
      eq(item.projectId, of.id),
      isNull(item.withdrawnAt),
      ne(item.stateKind, "finished"),
      isNotNull(item.assigneeId),
      gte(item.dueOn, today),
      notExists(
        db
          .select({ one: sql`1` })
          .from(riskTold)
          .where(and(eq(riskTold.itemId, item.id), eq(riskTold.dueOn, item.dueOn))),
      ),
    );
    const ids = await readIds({ reader: db, where }, MOST);
    if (ids.length === 0) continue;
    const { paces } = await flowSummary(accessOf(of), { ...AUTOMATION, personId: "" }, now);
    const p85 = paces[of.key]?.percentiles.p85 ?? null;
    for (const row of await readRows(db, { ids })) {
      const { age } = ageOf(countedClock(row), of.zone, now);
      const date = { dueOn: row.dueOn!, today, age, p85 };
      if (!isAtRisk(date)) continue;
      told += await transact(async (tx) => {
        const fresh = await tx
          .insert(riskTold)
          .values({ itemId: row.id, dueOn: date.dueOn, at: now })
          .onConflictDoNothing()
          .returning();
        if (fresh.length === 0) return 0;
        const told = await whoHears(tx, row, now);
        const said = atRiskWords(date);
        const expedite = row.classOfService === "expedite";
        await keepAlerts(
          tx,
          { itemId: row.id, expedite },
          told.map((one) => ({ ...one, said })),
          now,
        );
        return told.length;
      });
    }
  }
  return told;
}

/** Whoever has the item, and those who see it and have a rule of their own about it. */
async function whoHears(
  tx: Transaction,
  of: ItemSnapshot,
  at: number,
): Promise<{ personId: string; rules: string[] }[]> {
  const happened = [{ kind: "at risk" as const, seq: 0, people: [], teams: [] }];
  const nobody = new Set<string>();
  const own = await ownConcerns(tx, { of, happened, doerOf: () => null, doers: nobody, at });
  const mine = new Map([[of.assigneeId!, { rules: ["promise"], seqs: [] }]]);
  const concerns = concernsTogether([mine, own]);
  const sees = await whoSees(tx, of, [...concerns.keys()]);
  return [...concerns].flatMap(([personId, { rules }]) =>
    sees.has(personId) ? [{ personId, rules }] : [],
  );
}

/** The product itself, which may all. */
const accessOf = (of: typeof project.$inferSelect): ProjectAccess => ({
  project: of,
  role: "administrator",
  may: () => true,
});
