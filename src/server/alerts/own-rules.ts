import { and, asc, count, eq, isNull } from "drizzle-orm";
import { ownRuleSentence, type RuleNames } from "@/core/alerts/own-rule-words";
import { CHANGING_FIELDS, MOST_OWN_RULES, type OwnRule } from "@/core/alerts/own-rule";
import type { OwnRuleView, RuleGround } from "@/core/alerts/rules-view";
import { conditionSentence } from "@/core/condition/sentence";
import { EMPTY_VOCABULARY, type Vocabulary } from "@/core/condition/vocabulary";
import { fieldName } from "@/core/item/field-name";
import { database, type Reader } from "@/db/connection";
import { alertRule, project } from "@/db/schema";
import { loadVocabulary } from "../condition/vocabulary";
import { enterProject, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";

type Row = typeof alertRule.$inferSelect;

/** Projects whose items somebody can have rules about. */
export const ruleProjects = (reader: Reader, viewer: Viewer) =>
  reader
    .select({ id: project.id, key: project.key, name: project.name })
    .from(project)
    .where(visibleTo(reader, viewer))
    .orderBy(asc(project.name));

/** A person's own rules, the oldest first. */
export async function ownRulesOf(viewer: Viewer): Promise<OwnRuleView[]> {
  const db = database();
  const rows = await db
    .select({ rule: alertRule, projectKey: project.key })
    .from(alertRule)
    .leftJoin(project, eq(project.id, alertRule.projectId))
    .where(and(eq(alertRule.personId, viewer.personId), isNull(alertRule.removedAt)))
    .orderBy(asc(alertRule.madeAt), asc(alertRule.id));
  if (rows.length === 0) return [];
  const seen = new Map((await ruleProjects(db, viewer)).map((of) => [of.id, of.name]));
  const vocabularies = new Map<string, Vocabulary>();
  for (const { projectId } of rows.map(({ rule }) => rule))
    if (projectId !== null && seen.has(projectId) && !vocabularies.has(projectId))
      vocabularies.set(projectId, await loadVocabulary(db, projectId));
  return rows.map(({ rule: row, projectKey }) => {
    const rule = ruleOf(row, projectKey);
    const hidden = row.projectId !== null && !seen.has(row.projectId);
    const sentence = hidden
      ? "It is about a project that you do not see any more."
      : ownRuleSentence(rule, namesIn(vocabularies.get(row.projectId ?? "") ?? EMPTY_VOCABULARY));
    return { id: row.id, rule, sentence, hidden };
  });
}

/** A rule as it is sent. */
const ruleOf = (
  { name, typeIds, happens, fields, by, condition, off, mail, feed }: Row,
  projectKey: string | null,
): OwnRule => ({ name, projectKey, typeIds, happens, fields, by, condition, off, mail, feed });

type Named = readonly { id: string; name: string }[];
const nameOf = (id: string, among: Named, otherwise: string): string =>
  among.find((one) => one.id === id)?.name ?? otherwise;

const namesIn = (vocabulary: Vocabulary): RuleNames => ({
  project: () => vocabulary.projects[0]?.name ?? "a project",
  type: (id) => nameOf(id, vocabulary.types, "a former type"),
  person: (id) => nameOf(id, vocabulary.people, "somebody"),
  team: (id) => nameOf(id, vocabulary.teams, "a former team"),
  field: (id) => fieldName(id, vocabulary.own),
  condition: (condition) => conditionSentence(condition, vocabulary),
});

/** What a rule is called where nobody named it: what it says, as far as that goes. */
const LONGEST_NAME = 80;

/**
 * Makes a rule of one's own, or changes it.
 * @param id made by the caller, so that asking again is the same rule
 * @throws Refused when it is somebody else's, or its project is not seen
 */
export async function saveOwnRule(
  viewer: Viewer,
  { id, rule }: { id: string; rule: OwnRule },
  now = Date.now(),
): Promise<void> {
  const db = database();
  const access =
    rule.projectKey === null
      ? null
      : await enterProject({
          reader: db,
          viewer,
          where: { key: rule.projectKey },
          action: "read project",
        });
  const [before] = await db.select().from(alertRule).where(eq(alertRule.id, id));
  if (before && before.personId !== viewer.personId) throw notFound("rule");
  if (!before) await refuseTooMany(viewer);
  const { projectKey: _, ...said } = rule;
  const row = {
    ...said,
    name: rule.name || (await nameFor(rule, access?.project.id ?? null)),
    projectId: access?.project.id ?? null,
    removedAt: null,
  };
  await db
    .insert(alertRule)
    .values({ id, personId: viewer.personId, madeAt: now, ...row })
    .onConflictDoUpdate({ target: alertRule.id, set: row });
}

async function nameFor(rule: OwnRule, projectId: string | null): Promise<string> {
  const db = database();
  const vocabulary = projectId === null ? EMPTY_VOCABULARY : await loadVocabulary(db, projectId);
  return ownRuleSentence({ ...rule, condition: null }, namesIn(vocabulary)).slice(0, LONGEST_NAME);
}

async function refuseTooMany({ personId }: Viewer): Promise<void> {
  const [{ n }] = await database()
    .select({ n: count() })
    .from(alertRule)
    .where(and(eq(alertRule.personId, personId), isNull(alertRule.removedAt)));
  if (n >= MOST_OWN_RULES)
    throw invalid(
      `You have ${MOST_OWN_RULES} rules, and more than that nobody keeps in mind.`,
      "Take one out first, or let one say more.",
    );
}

/** Takes a rule of one's own out, or brings it back. */
export async function removeOwnRule(
  viewer: Viewer,
  { id, removed }: { id: string; removed: boolean },
  now = Date.now(),
): Promise<void> {
  if (!removed) await refuseTooMany(viewer);
  const changed = await database()
    .update(alertRule)
    .set({ removedAt: removed ? now : null })
    .where(and(eq(alertRule.id, id), eq(alertRule.personId, viewer.personId)))
    .returning({ id: alertRule.id });
  if (changed.length === 0) throw notFound("rule");
}

/** What rules about a project can name. @throws Refused when it is not seen */
export async function ruleGround(viewer: Viewer, projectKey: string): Promise<RuleGround> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const vocabulary = await loadVocabulary(db, access.project.id);
  const kept = vocabulary.own.filter(({ removedAt }) => removedAt === null);
  const ids = [...CHANGING_FIELDS, ...kept.map(({ id }) => `own.${id}`)];
  return {
    vocabulary,
    fields: ids.map((id) => ({ id, name: fieldName(id, vocabulary.own) })),
  };
}
