import { and, desc, eq, isNotNull, sql } from "drizzle-orm";
import { isoDate, dayNumber } from "@/core/calendar/zone";
import { freezeOn } from "@/core/ship/environment";
import type { DeployAsk } from "@/core/ship/deploy-ask";
import { database, transact } from "@/db/connection";
import { codeBranch, codeRepository, deploymentRequest, eventSource } from "@/db/schema";
import { announce } from "../events/announce";
import { askOutside, namedOutside, wholeAddress, type Asked } from "../events/ask-outside";
import { speaksFor } from "../events/speakers";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notAllowed } from "../refused";
import { mayDeploy } from "./deployers";
import { meantDeployment } from "./forecast-deployment";

/**
 * Asks the pipeline of a project to deploy a build, or to roll an environment back to one. Nothing is
 * changed by that: the pipeline's own event says that it happened.
 * @returns why the pipeline did not take it; null where it did
 * @throws Refused
 */
export async function askPipeline(
  viewer: Viewer,
  projectKey: string,
  ask: DeployAsk,
  now = Date.now(),
): Promise<{ refused: string | null }> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "move item" });
  const { project } = access;
  if (!(await mayDeploy(reader, viewer, access))) throw notAllowed("have builds deployed here");
  const { environment, repositoryId } = await meantDeployment(reader, project.id, ask);
  const frozen = freezeOn(environment, isoDate(dayNumber(now, project.zone)));
  if (frozen && !ask.inFreeze)
    throw invalid(
      `${environment.name} is frozen until ${frozen.until}.`,
      "Say that it is to be deployed all the same, or wait.",
    );
  const pipeline = await pipelineOf(project.id);
  const request = {
    ...{ id: ask.id, repositoryId, environmentId: environment.id, kind: ask.kind },
    ...{ build: ask.build, askedBy: viewer.personId, askedAt: now },
  };
  const [fresh] = await reader
    .insert(deploymentRequest)
    .values(request)
    .onConflictDoNothing()
    .returning({ id: deploymentRequest.id });
  // Sent again, it is asked once.
  if (!fresh) return { refused: null };
  const refused = await askOutside(pipeline, {
    id: ask.id,
    type: `dev.cdeventsx.zigzag-request.${ask.kind === "deploy" ? "deploy" : "rollback"}.0.1.0`,
    at: now,
    customData: {
      ...{ repository: ask.repository, build: ask.build, environment: environment.name },
      by: await namedOutside(viewer),
    },
  });
  await transact(async (tx) => {
    await tx.update(deploymentRequest).set({ refused }).where(eq(deploymentRequest.id, ask.id));
    await announce(tx, project.id, { kind: "code changed", data: { itemId: null } }, now);
  });
  return { refused };
}

const isCodeHost = sql`exists (select 1 from ${codeRepository} r
  join ${codeBranch} b on b.repository_id = r.id where r.source_id = ${eventSource.id})`;

/** The latest source of a project that takes requests. @throws Refused where none does */
async function pipelineOf(projectId: string): Promise<Asked> {
  const [source] = await database()
    .select({ secret: eventSource.secret, asksAt: eventSource.asksAt })
    .from(eventSource)
    .where(and(speaksFor(projectId), isNotNull(eventSource.asksAt)))
    // A code host takes other requests; where it is the pipeline too, it is the only one.
    .orderBy(isCodeHost, desc(eventSource.createdAt))
    .limit(1);
  const address = source?.asksAt ? wholeAddress(source.asksAt, process.env.PIPELINE_URL) : null;
  if (!source || address === null)
    throw invalid(
      "No pipeline of this project takes requests.",
      "A lead says in Design, Events, where the pipeline takes them.",
    );
  return { secret: source.secret, address };
}
