import { and, desc, eq, isNull } from "drizzle-orm";
import { learnRelations, type WordRelations } from "@/core/intake/word-relations";
import { database } from "@/db/connection";
import { item, report } from "@/db/schema";

/** From so many of its latest merged reports a project learns which words stand for which. */
const LEARNT_FROM = 400;
const KEPT_MS = 10 * 60_000;
const KEPT_PROJECTS = 100;

const kept = new Map<string, { at: number; relations: Promise<WordRelations> }>();

/** What stands for what in a project, learnt from the reports that people merged into items. */
export function relationsOf(projectId: string, now = Date.now()): Promise<WordRelations> {
  const known = kept.get(projectId);
  if (known && now - known.at < KEPT_MS) return known.relations;
  const relations = learn(projectId);
  kept.delete(projectId);
  kept.set(projectId, { at: now, relations });
  relations.catch(() => kept.delete(projectId));
  if (kept.size > KEPT_PROJECTS) kept.delete(kept.keys().next().value!);
  return relations;
}

async function learn(projectId: string): Promise<WordRelations> {
  const rows = await database()
    .select({
      title: report.title,
      happened: report.happened,
      itemTitle: item.title,
      description: item.description,
    })
    .from(report)
    .innerJoin(item, eq(item.id, report.itemId))
    .where(
      and(
        eq(report.projectId, projectId),
        eq(report.status, "merged"),
        isNull(item.withdrawnAt),
        eq(item.restricted, false),
      ),
    )
    .orderBy(desc(report.receivedAt))
    .limit(LEARNT_FROM);
  return learnRelations(
    rows.map(
      (r) =>
        [
          { title: r.title, body: r.happened },
          { title: r.itemTitle, body: r.description },
        ] as const,
    ),
  );
}
