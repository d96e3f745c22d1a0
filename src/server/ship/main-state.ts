import { and, desc, eq, inArray, isNotNull, or } from "drizzle-orm";
import { mainHealth, type MainState } from "@/core/ship/main-health";
import { subjectOf } from "@/core/ship/subject";
import type { Reader } from "@/db/connection";
import { codeBranch, codeChange, codeCommit, pipelineRun } from "@/db/schema";

/** What ended longer ago says nothing of how main is now. */
const RUNS = 500;

/** Whether main of some repositories is clean, and since when; of those that were never checked nothing. */
export async function readMainStates(
  reader: Reader,
  repositories: readonly { id: string; name: string }[],
): Promise<MainState[]> {
  const states = await Promise.all(
    repositories.map(async ({ id, name }) => {
      const health = mainHealth(await readRuns(reader, id));
      if (health === null) return [];
      const by = await whatBegan(reader, id, health.commit);
      return [{ repository: name, ...health, ...by }];
    }),
  );
  return states.flat();
}

async function readRuns(reader: Reader, repositoryId: string) {
  const mains = reader
    .select({ name: codeBranch.name })
    .from(codeBranch)
    .where(and(eq(codeBranch.repositoryId, repositoryId), eq(codeBranch.main, true)));
  const rows = await reader
    .select({
      commit: pipelineRun.commit,
      passed: pipelineRun.passed,
      endedAt: pipelineRun.endedAt,
    })
    .from(pipelineRun)
    .where(
      and(
        eq(pipelineRun.repositoryId, repositoryId),
        inArray(pipelineRun.branch, mains),
        isNotNull(pipelineRun.passed),
        isNotNull(pipelineRun.endedAt),
      ),
    )
    .orderBy(desc(pipelineRun.endedAt), desc(pipelineRun.name))
    .limit(RUNS);
  return rows.map(({ commit, passed, endedAt }) => ({
    ...{ commit, passed: passed!, endedAt: endedAt! },
  }));
}

/** The change that a commit on main came of, and what the commit says. */
async function whatBegan(reader: Reader, repositoryId: string, commit: string) {
  const [[change], [row]] = await Promise.all([
    reader
      .select({ name: codeChange.name, title: codeChange.title, url: codeChange.url })
      .from(codeChange)
      .where(
        and(
          eq(codeChange.repositoryId, repositoryId),
          or(eq(codeChange.mergedAs, commit), eq(codeChange.head, commit)),
        ),
      )
      .limit(1),
    reader
      .select({ message: codeCommit.message, url: codeCommit.url })
      .from(codeCommit)
      .where(and(eq(codeCommit.repositoryId, repositoryId), eq(codeCommit.hash, commit))),
  ]);
  return {
    change: change?.name ?? null,
    title: change?.title || subjectOf(row?.message ?? ""),
    url: change?.url ?? row?.url ?? null,
  };
}
