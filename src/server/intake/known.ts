import { and, eq, inArray, isNull, ne } from "drizzle-orm";
import { z } from "zod";
import { mostSimilar } from "@/core/intake/similarity";
import { UNJUDGED, type ReportStanding } from "@/core/intake/report";
import { database, transact, type Transaction } from "@/db/connection";
import { item, knownProblem, project } from "@/db/schema";
import { announce } from "../events/announce";
import { seeItem } from "../item/enter";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";
import { type knownBody } from "@/core/intake/request";
import type { KnownProblem } from "@/core/intake/known-problem";

const OFFERED = 3;
const LEAST_ALIKE = 0.15;
const MOST_READ = 500;

/**
 * Published problems of a project that look like what somebody begins to report. Restricted,
 * finished and withdrawn items are never among them.
 */
export async function knownProblemsLike(projectKey: string, text: string): Promise<KnownProblem[]> {
  const rows = await database()
    .select({ id: knownProblem.itemId, words: knownProblem.words })
    .from(knownProblem)
    .innerJoin(item, eq(item.id, knownProblem.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        eq(project.key, projectKey),
        eq(project.visibility, "everyone"),
        eq(item.restricted, false),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
      ),
    )
    .limit(MOST_READ);
  const texts = rows.map((r) => ({ id: r.id, title: r.words, body: "" }));
  const byId = new Map(rows.map((r) => [r.id, r]));
  return mostSimilar({ id: "", title: text, body: "" }, texts, OFFERED, { least: LEAST_ALIKE }).map(
    ({ id }) => byId.get(id)!,
  );
}

/** A report whose sender says that it is a known problem: where it stands, and what it is about. */
export async function joinKnownProblem(
  tx: Transaction,
  projectId: string,
  itemId: string,
): Promise<{ standing: ReportStanding; words: string }> {
  const [known] = await tx
    .select({ id: item.id, words: knownProblem.words })
    .from(knownProblem)
    .innerJoin(item, eq(item.id, knownProblem.itemId))
    .where(
      and(
        eq(item.projectId, projectId),
        eq(item.restricted, false),
        isNull(item.withdrawnAt),
        inArray(knownProblem.itemId, z.uuid().safeParse(itemId).success ? [itemId] : []),
      ),
    );
  if (!known) throw invalid("This problem is not known any more.", "Send your report without it.");
  return {
    standing: { ...UNJUDGED, status: "merged", itemId: known.id },
    words: known.words,
  };
}

/** Makes an item known outside, in words of its own, or takes it back. */
export async function publishKnown(
  viewer: Viewer,
  itemId: string,
  { words }: z.infer<typeof knownBody>,
): Promise<void> {
  await transact(async (tx) => {
    const { access, before: row } = await seeItem(tx, viewer, itemId, "judge report");
    if (words !== null && row.restricted)
      throw invalid("A restricted item is not told to everybody.", "Open it to all first.");
    if (words === null) await tx.delete(knownProblem).where(eq(knownProblem.itemId, itemId));
    else
      await tx
        .insert(knownProblem)
        .values({ itemId, words, byId: viewer.personId, at: Date.now() })
        .onConflictDoUpdate({
          target: knownProblem.itemId,
          set: { words, byId: viewer.personId, at: Date.now() },
        });
    await announce(tx, access.project.id, {
      kind: "known problem changed",
      data: { itemId, known: words !== null },
    });
  });
}

/** The words by which an item is known outside; null where it is not. */
export async function knownAs(itemId: string): Promise<string | null> {
  const [row] = await database()
    .select({ words: knownProblem.words })
    .from(knownProblem)
    .where(eq(knownProblem.itemId, itemId));
  return row?.words ?? null;
}
