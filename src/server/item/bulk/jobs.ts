import { and, count, desc, eq, inArray, sql } from "drizzle-orm";
import { actWords } from "@/core/item/bulk/act";
import { gatherLeftOut, type BulkJobs } from "@/core/item/bulk/job";
import { bulkItem, bulkJob, item } from "@/db/schema";
import { seesAnywhere } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { keyColumn } from "../key";
import { enterList } from "../list/enter";

const MOST_SHOWN = 10;

/** The latest jobs of a person in a project, with how far they are and what was left out. */
export async function readBulkJobs(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<BulkJobs> {
  const { ground, seen } = await enterList(viewer, projectKey, now);
  const { reader, asker } = seen;
  const jobs = await reader
    .select()
    .from(bulkJob)
    .where(and(eq(bulkJob.projectId, ground.id), eq(bulkJob.personId, viewer.personId)))
    .orderBy(desc(bulkJob.madeAt), desc(bulkJob.id))
    .limit(MOST_SHOWN);
  const ids = jobs.map((job) => job.id);
  if (ids.length === 0) return { jobs: [] };
  const [counts, refused] = await Promise.all([
    reader
      .select({ jobId: bulkItem.jobId, outcome: bulkItem.outcome, n: count() })
      .from(bulkItem)
      .where(inArray(bulkItem.jobId, ids))
      .groupBy(bulkItem.jobId, bulkItem.outcome),
    reader
      .select({
        jobId: bulkItem.jobId,
        sentence: sql<string>`coalesce(${bulkItem.sentence}, '')`,
        key: keyColumn,
        seen: sql<boolean>`coalesce(${seesAnywhere(reader, viewer) ?? sql`true`}, false)`,
      })
      .from(bulkItem)
      .innerJoin(item, eq(item.id, bulkItem.itemId))
      .where(and(inArray(bulkItem.jobId, ids), eq(bulkItem.outcome, "refused")))
      .orderBy(bulkItem.position),
  ]);
  const countOf = (jobId: string, fits: (outcome: string | null) => boolean) =>
    counts
      .filter((row) => row.jobId === jobId && fits(row.outcome))
      .reduce((sum, row) => sum + row.n, 0);
  return {
    jobs: jobs.map(({ id, doing, state, madeAt, undoOf }) => ({
      id,
      words: actWords(doing, asker.vocabulary),
      state,
      madeAt,
      total: countOf(id, () => true),
      looked: countOf(id, (outcome) => outcome !== null),
      done: countOf(id, (outcome) => outcome === "done"),
      same: countOf(id, (outcome) => outcome === "same"),
      leftOut: gatherLeftOut(
        refused
          .filter((row) => row.jobId === id)
          .map((row) => ({
            sentence: row.sentence,
            key: row.seen ? row.key : null,
          })),
      ),
      undoes: undoOf !== null,
      undone: jobs.some((other) => other.undoOf === id),
    })),
  };
}
