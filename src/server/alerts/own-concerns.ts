import { and, arrayOverlaps, eq, isNull, or, sql } from "drizzle-orm";
import type { Concern } from "@/core/alerts/concern";
import type { Happened } from "@/core/alerts/happened";
import { stepsMeant, type RuleHappening, type StepDoer } from "@/core/alerts/own-rule";
import { asksWhoLooks, looksAround, type Condition } from "@/core/condition/condition";
import { holds } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Reader } from "@/db/connection";
import { alertRule, person, project, teamMember } from "@/db/schema";
import { askedItem } from "../condition/asked-items";
import { projectAsker } from "../condition/asker";
import { seesItem, type ItemColumns } from "../people/access";
import type { Viewer } from "../people/viewer";
import { membersOfTeams } from "./ties";

/** What happened to an item, as rules of people's own are held against it. */
export interface Occurrence {
  of: ItemSnapshot;
  happened: readonly Happened[];
  /** Who did a step; null for what stands in no history. */
  doerOf: (seq: number) => StepDoer | null;
  /** Who did it or set it off: nobody is told of their own doing. */
  doers: ReadonlySet<string>;
  at: number;
}

/**
 * Whom something concerns by rules of their own. Only rules whose project, type and happening are
 * touched are read; only of those that fit the condition is asked, as their person.
 */
export async function ownConcerns(
  reader: Reader,
  occurrence: Occurrence,
): Promise<Map<string, Concern>> {
  const { of, happened, doers } = occurrence;
  const candidates = await rulesTouched(reader, of, happened);
  const teams = candidates.flatMap(({ rule: { by } }) => (by.kind === "teams" ? by.ids : []));
  const membersOf = await membersOfTeams(reader, [...new Set(teams)]);
  const concerns = new Map<string, Concern>();
  const asks = conditionAsker(reader, occurrence);
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

/** Rules that something which happened to an item can be about, with whose they are. */
export async function rulesTouched(
  reader: Reader,
  of: Pick<ItemSnapshot, "projectId" | "typeId">,
  happened: readonly Happened[],
): Promise<{ rule: typeof alertRule.$inferSelect; viewer: Viewer }[]> {
  const kinds = [...new Set(happened.map(({ kind }) => kind))] as RuleHappening[];
  const fields = happened.flatMap(({ field }) => field ?? []);
  const rows = await reader
    .select({ rule: alertRule, name: person.name, administrator: person.administrator })
    .from(alertRule)
    .innerJoin(person, eq(person.id, alertRule.personId))
    .where(
      and(
        eq(alertRule.off, false),
        isNull(alertRule.removedAt),
        isNull(person.endedAt),
        or(isNull(alertRule.projectId), eq(alertRule.projectId, of.projectId)),
        or(sql`${alertRule.happens} = '{}'`, arrayOverlaps(alertRule.happens, kinds)),
        or(sql`${alertRule.typeIds} = '{}'`, arrayOverlaps(alertRule.typeIds, [of.typeId])),
        // A rule about certain fields alone is read when one of them changed.
        or(
          sql`${alertRule.fields} = '{}'`,
          sql`${alertRule.happens} <> '{changed}'`,
          fields.length > 0 ? arrayOverlaps(alertRule.fields, fields) : undefined,
        ),
      ),
    );
  return rows.map(({ rule, name, administrator }) => ({
    rule,
    viewer: { personId: rule.personId, name, administrator },
  }));
}

/** Whether conditions hold for an item, each as its person sees what stands around it. */
function conditionAsker(reader: Reader, { of, at }: Occurrence) {
  const asking = once(() => projectAsking(reader, of.projectId, at));
  const around = new Map<string, Promise<AskedItem>>();
  return async (viewer: Viewer, condition: Condition): Promise<boolean> => {
    const project = await asking();
    const { personId } = viewer;
    const teamIds = asksWhoLooks(condition) ? await teamsOf(reader, personId) : [];
    const looks = looksAround(condition);
    const sees = looks ? (other: ItemColumns) => seesItem(reader, viewer, other) : undefined;
    // What stands around it differs by who looks; the item itself does not.
    const key = looks ? personId : "";
    const asked = around.get(key) ?? askedItem(reader, of, project.ownFields, sees);
    around.set(key, asked);
    return holds(condition, await asked, { ...project, personId, teamIds });
  };
}

const once = <T>(make: () => Promise<T>): (() => Promise<T>) => {
  let made: Promise<T> | undefined;
  return () => (made ??= make());
};

async function projectAsking(reader: Reader, projectId: string, at: number) {
  const [of] = await reader
    .select({ id: project.id, zone: project.zone })
    .from(project)
    .where(eq(project.id, projectId));
  return projectAsker(reader, of, at);
}

async function teamsOf(reader: Reader, personId: string): Promise<string[]> {
  const rows = await reader
    .select({ id: teamMember.teamId })
    .from(teamMember)
    .where(eq(teamMember.personId, personId));
  return rows.map(({ id }) => id);
}
