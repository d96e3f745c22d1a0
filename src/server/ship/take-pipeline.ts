import { and, eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import { environmentKey } from "@/core/ship/environment";
import type { BuildNews, DeploymentNews, PipelineNews, RunNews } from "@/core/ship/pipeline-event";
import { codeBuild, deployment, deploymentRequest, pipelineRun } from "@/db/schema";
import { wholeHash } from "./commit-graph";
import type { Told } from "./item-code";
import { forgetParts, tellPresence } from "./presence";
import { repositoryHeard } from "./repository";
import { commitOfBuild, latestAt, standAt, standNowhere, standOn, type Moved } from "./standing";
import { noteShown, type Post, type Taking } from "./taking";

/**
 * Takes in what a pipeline says: runs, builds and deployments are kept, and with a deployment it is
 * known what stands where.
 * @returns what items are to be told
 */
export async function takePipeline(post: Post, news: PipelineNews): Promise<Told[]> {
  const repositoryId = await repositoryHeard(post, news.repository);
  const told = await takeNews({ ...post, repositoryId }, news);
  noteShown(
    post,
    told.map(({ itemId }) => itemId),
  );
  return told;
}

function takeNews(taking: Taking, news: PipelineNews): Promise<Told[]> {
  switch (news.kind) {
    case "run":
      return takeRun(taking, news);
    case "build":
      return takeBuild(taking, news);
    case "deployment":
      return takeDeployment(taking, news);
  }
}

/** Keeps a run; what began does not undo what ended, whichever was heard first. */
async function takeRun({ tx, repositoryId }: Taking, news: RunNews): Promise<Told[]> {
  const { run, commit, branch, passed, at, url } = news;
  const ended = passed !== null;
  const said = { commit, branch, url, ...(ended ? { passed, endedAt: at } : { startedAt: at }) };
  await tx
    .insert(pipelineRun)
    .values({ repositoryId, name: run, ...said })
    .onConflictDoUpdate({ target: [pipelineRun.repositoryId, pipelineRun.name], set: said });
  return [];
}

async function takeBuild(taking: Taking, news: BuildNews): Promise<Told[]> {
  const { tx, repositoryId } = taking;
  const { build, at, url } = news;
  const commit = await wholeHash(tx, repositoryId, news.commit);
  await tx
    .insert(codeBuild)
    .values({ repositoryId, name: build, commit, at, url })
    .onConflictDoNothing();
  return tellPresence(taking, await standOn(tx, repositoryId));
}

async function takeDeployment(taking: Taking, news: DeploymentNews): Promise<Told[]> {
  const { tx, repositoryId } = taking;
  const { part, outcome, build, at, by, url } = news;
  const place = { repositoryId, environment: environmentKey(news.environment), part };
  const commit = await commitDeployed(taking, news);
  const called = news.environment.trim();
  const latest = await latestAt(tx, place);
  const moved = await move(taking, { news, place, commit, latest });
  await tx.insert(deployment).values({
    ...{ id: newId(), ...place, called, outcome, build, commit, at, url },
    ...{ byName: by?.name ?? null, byMail: by?.mail ?? null, complete: moved.complete },
  });
  if (latest?.called !== called) forgetParts(taking);
  if (news.request !== null) await answerRequest(taking, news.request, at);
  return tellPresence(taking, moved.hashes);
}

/** The commit that is deployed: as the event says, as its build does. */
async function commitDeployed(
  { tx, repositoryId }: Taking,
  { commit, build }: DeploymentNews,
): Promise<string | null> {
  if (commit !== null) return wholeHash(tx, repositoryId, commit);
  return commitOfBuild(tx, repositoryId, build);
}

async function move(
  { tx }: Taking,
  {
    news: { outcome, at },
    place,
    commit,
    latest,
  }: {
    news: DeploymentNews;
    place: Parameters<typeof standAt>[1];
    commit: string | null;
    latest: Awaited<ReturnType<typeof latestAt>>;
  },
): Promise<Moved> {
  const late = latest !== null && at < latest.at;
  // What failed changed nothing; of what came late another one has taken the place.
  if (outcome === "failed" || late) return { hashes: [], complete: true };
  if (outcome === "removed") return { hashes: await standNowhere(tx, place, at), complete: true };
  if (commit === null) return { hashes: [], complete: false };
  return standAt(tx, place, { commit, at, after: latest?.commit ?? null });
}

/** A request that an event answers waits no more. */
async function answerRequest({ tx, repositoryId }: Taking, id: string, at: Instant): Promise<void> {
  await tx
    .update(deploymentRequest)
    .set({ answeredAt: at })
    .where(and(eq(deploymentRequest.id, id), eq(deploymentRequest.repositoryId, repositoryId)));
}
