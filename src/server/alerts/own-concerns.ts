import { and, eq, isNull, or, sql, type AnyColumn, type SQL } from "drizzle-orm";
import type { Concern } from "@/core/alerts/concern";
import type { Happened } from "@/core/alerts/happened";
import { stepsMeant, type RuleHappening } from "@/core/alerts/own-rule";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Reader } from "@/db/connection";
import { alertRule, person } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import type { Viewer } from "../people/viewer";
import { conditionAsker, type Occurrence } from "./condition-asker";
import { membersOfTeams } from "./ties";

/**
 * Whom something concerns by rules of their own. Only rules whose project, type and happening are
 * touched are read; only of those that fit the condition is asked, as their person.
 */
export async function ownConcerns(
  reader: Reader,
  occurrence: Occurrence,
  asks = conditionAsker(reader, occurrence),
): Promise<Map<string, Concern>> {
  const { of, happened, doers } = occurrence;
  const candidates = await rulesTouched(reader, of, happened);
  const teams = candidates.flatMap(({ rule: { by } }) => (by.kind === "teams" ? by.ids : []));
  const membersOf = await membersOfTeams(reader, [...new Set(teams)]);
  const concerns = new Map<string, Concern>();
  for (const { rule, viewer } of candidates) {
    if (doers.has(rule.personId)) continue;
    const seqs = stepsMeant(rule, { ...occurrence, membersOf });
    if (seqs.length === 0) continue;
    if (rule.condition && !(await asks(viewer, rule.condition))) continue;
    const concern = concerns.get(rule.personId) ?? { rules: [], seqs: [] };
    concern.rules.push(rule.id);
    concern.seqs = [...new Set([...concern.seqs, ...seqs])].sort((a, b) => a - b);
    concerns.set(rule.personId, concern);
  }
  return concerns;
}

const overlaps = (column: AnyColumn, name: string): SQL =>
  sql`${column} && ${sql.placeholder(name)}::text[]`;

const TOUCHED = namedQuery("rules of people's own that are touched", (reader) =>
  reader
    .select({ rule: alertRule, name: person.name, administrator: person.administrator })
    .from(alertRule)
    .innerJoin(person, eq(person.id, alertRule.personId))
    .where(
      and(
        eq(alertRule.off, false),
        isNull(alertRule.removedAt),
        isNull(person.endedAt),
        or(isNull(alertRule.projectId), eq(alertRule.projectId, sql.placeholder("projectId"))),
        or(sql`${alertRule.happens} = '{}'`, overlaps(alertRule.happens, "kinds")),
        or(sql`${alertRule.typeIds} = '{}'`, overlaps(alertRule.typeIds, "typeIds")),
        // A rule about certain fields alone is read when one of them changed.
        or(
          sql`${alertRule.fields} = '{}'`,
          sql`${alertRule.happens} <> '{changed}'`,
          overlaps(alertRule.fields, "fields"),
        ),
      ),
    ),
);

/** Rules that something which happened to an item can be about, with whose they are. */
export async function rulesTouched(
  reader: Reader,
  of: Pick<ItemSnapshot, "projectId" | "typeId">,
  happened: readonly Happened[],
): Promise<{ rule: typeof alertRule.$inferSelect; viewer: Viewer }[]> {
  const kinds = [...new Set(happened.map(({ kind }) => kind))] as RuleHappening[];
  const fields = happened.flatMap(({ field }) => field ?? []);
  const { projectId, typeId } = of;
  const rows = await TOUCHED(reader, { projectId, typeIds: [typeId], kinds, fields });
  return rows.map(({ rule, name, administrator }) => ({
    rule,
    viewer: { personId: rule.personId, name, administrator },
  }));
}
