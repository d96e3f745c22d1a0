import { and, desc, eq, isNotNull, sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { isoDate, dayNumber } from "@/core/calendar/zone";
import { freezeOn } from "@/core/ship/environment";
import type { DeployAsk } from "@/core/ship/deploy-ask";
import { database, transact } from "@/db/connection";
import { deploymentRequest, eventSource, person } from "@/db/schema";
import { announce } from "../events/announce";
import { signatureOf } from "../events/signature";
import { speaksFor } from "../events/speakers";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notAllowed } from "../refused";
import { mayDeploy } from "./deployers";
import { meantDeployment } from "./forecast-deployment";

/** A pipeline that takes longer to say that it heard is taken as away. */
const PATIENCE_MS = 8_000;
const LONGEST_REASON = 200;

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
  const refused = await post(pipeline, {
    id: ask.id,
    type: `dev.cdeventsx.zigzag-request.${ask.kind === "deploy" ? "deploy" : "rollback"}.0.1.0`,
    at: now,
    customData: {
      ...{ repository: ask.repository, build: ask.build, environment: environment.name },
      by: await nameOf(viewer),
    },
  });
  await transact(async (tx) => {
    await tx.update(deploymentRequest).set({ refused }).where(eq(deploymentRequest.id, ask.id));
    await announce(tx, project.id, { kind: "code changed", data: { itemId: null } }, now);
  });
  return { refused };
}

interface Pipeline {
  secret: string;
  address: string;
}

/** The latest source of a project that takes requests. @throws Refused where none does */
async function pipelineOf(projectId: string): Promise<Pipeline> {
  const [source] = await database()
    .select({ secret: eventSource.secret, asksAt: eventSource.asksAt })
    .from(eventSource)
    .where(and(speaksFor(projectId), isNotNull(eventSource.asksAt)))
    .orderBy(desc(eventSource.createdAt))
    .limit(1);
  const address = source?.asksAt ? wholeAddress(source.asksAt) : null;
  if (!source || address === null)
    throw invalid(
      "No pipeline of this project takes requests.",
      "A lead says in Design, Events, where the pipeline takes them.",
    );
  return { secret: source.secret, address };
}

/** A path stands for the pipeline that came with the product. */
function wholeAddress(asksAt: string): string | null {
  if (!asksAt.startsWith("/")) return asksAt;
  const { PIPELINE_URL: beside } = process.env;
  return beside ? `${beside}${asksAt}` : null;
}

async function nameOf(viewer: Viewer): Promise<{ name: string; mail: string }> {
  const [{ name, mail }] = await database()
    .select({ name: person.name, mail: sql<string>`lower(${person.email})` })
    .from(person)
    .where(eq(person.id, viewer.personId));
  return { name, mail };
}

/**
 * Posts a signed request (Standard Webhooks 1.0, CloudEvents 1.0).
 * @returns what was wrong; null where it was taken
 */
async function post(
  { secret, address }: Pipeline,
  { id, type, at, customData }: { id: string; type: string; at: number; customData: object },
): Promise<string | null> {
  const body = JSON.stringify({
    ...{ specversion: "1.0", id, source: "/zigzag-lane", type },
    time: new Date(at).toISOString(),
    datacontenttype: "application/json",
    data: { customData },
  });
  const [message, timestamp] = [newId(), String(Math.floor(at / 1000))];
  try {
    const answer = await fetch(address, {
      method: "POST",
      body,
      redirect: "error",
      headers: {
        "Content-Type": "application/cloudevents+json",
        "webhook-id": message,
        "webhook-timestamp": timestamp,
        "webhook-signature": signatureOf(secret, message, timestamp, body),
      },
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
    if (answer.ok) return null;
    const plain = answer.headers.get("content-type")?.startsWith("text/plain") ?? false;
    const said = plain ? (await answer.text()).trim().slice(0, LONGEST_REASON) : "";
    return said || `the pipeline answered ${answer.status}`;
  } catch {
    return "the pipeline did not answer";
  }
}
