import { and, eq, inArray, isNull, like, sql } from "drizzle-orm";
import { PLAIN_TERM, TERM_FIELDS, TERM_KINDS, type TermKind } from "@/core/item/terms/term";
import type { TermsView, UsedTerm } from "@/core/item/terms/view";
import { database } from "@/db/connection";
import { follow, item } from "@/db/schema";
import { termTarget } from "../../alerts/follow";
import { enterProject, seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { loadTerms } from "./load";

const open = sql<number>`count(*) filter (where ${item.stateKind} <> 'finished')`.mapWith(Number);

/** The labels and parts of a project, with how often each is said as far as one may see it. */
export async function readTerms(viewer: Viewer, projectKey: string): Promise<TermsView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const projectId = access.project.id;
  const [terms, used, follows] = await Promise.all([
    loadTerms(db, projectId),
    Promise.all(TERM_KINDS.map((kind) => usesOf(viewer, projectId, kind))),
    followsOf(viewer, projectId),
  ]);
  const uses = new Map(used.flat().map((use) => [`${use.kind} ${use.name}`, use]));
  const described = terms.map((term): UsedTerm => {
    const { items = 0, open = 0 } = uses.get(`${term.kind} ${term.name}`) ?? {};
    return { ...term, described: true, items, open, ...follows(term.kind, term.name) };
  });
  const known = new Set(terms.map(({ kind, name }) => `${kind} ${name}`));
  const undescribed = [...uses.values()]
    .filter(({ kind, name }) => !known.has(`${kind} ${name}`))
    .map((use): UsedTerm => ({
      ...PLAIN_TERM,
      ...use,
      described: false,
      ...follows(use.kind, use.name),
    }));
  return {
    project: { id: projectId, key: access.project.key },
    terms: [...described, ...undescribed],
    rights: { edit: access.may("edit workflow"), follow: access.may("keep view") },
  };
}

/** The items of a project that one may see and that are there. */
const seen = (viewer: Viewer, projectId: string) =>
  and(eq(item.projectId, projectId), isNull(item.withdrawnAt), seesItem(database(), viewer));

async function usesOf(
  viewer: Viewer,
  projectId: string,
  kind: TermKind,
): Promise<{ kind: TermKind; name: string; items: number; open: number }[]> {
  const column = item[TERM_FIELDS[kind]];
  const { rows } = await database().execute<{ name: string; items: number; open: number }>(
    sql`select each.name, count(*)::int as items, (${open})::int as open
      from ${item} cross join lateral jsonb_array_elements_text(${column}) as each (name)
      where ${seen(viewer, projectId)} and ${column} <> '[]'::jsonb
      group by 1 order by 2 desc, 1`,
  );
  return rows.map((row) => ({ kind, ...row }));
}

/** Whether one follows a word, and how many do. */
async function followsOf(
  viewer: Viewer,
  projectId: string,
): Promise<(kind: TermKind, name: string) => Pick<UsedTerm, "followed" | "followers">> {
  const rows = await database()
    .select({ kind: follow.kind, target: follow.target, personId: follow.personId })
    .from(follow)
    .where(
      and(
        inArray(follow.kind, [...TERM_KINDS]),
        like(follow.target, `${termTarget(projectId, "").replace(/[\\%_]/g, "\\$&")}%`),
        eq(follow.on, true),
      ),
    );
  return (kind, name) => {
    const target = termTarget(projectId, name);
    const own = rows.filter((row) => row.kind === kind && row.target === target);
    const followed = own.some(({ personId }) => personId === viewer.personId);
    return { followed, followers: own.length };
  };
}
