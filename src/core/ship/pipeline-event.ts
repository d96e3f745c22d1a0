import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import type { CloudEvent } from "@/core/formats/cloud-event";
import { wentWell } from "@/core/formats/delivery-event";
import { author, hash, linkOf, type CodeAuthor } from "./code-event";

/** Where something happened, and when. */
interface OfRepository {
  /** As the code host names it. */
  repository: string;
  at: Instant;
  url: string | null;
}

/** The checks of a commit began, or ended. */
export interface RunNews extends OfRepository {
  kind: "run";
  /** As the pipeline names it. */
  run: string;
  commit: string;
  /** The branch that was checked; null where nobody said. */
  branch: string | null;
  /** Null while it runs. */
  passed: boolean | null;
}

/** Something was made of a commit that can be deployed. */
export interface BuildNews extends OfRepository {
  kind: "build";
  build: string;
  commit: string;
}

/** What became of an attempt to put a build on an environment. */
export const DEPLOYMENT_OUTCOMES = ["deployed", "rolled back", "failed", "removed"] as const;
export type DeploymentOutcome = (typeof DEPLOYMENT_OUTCOMES)[number];

/** A build was put on an environment, or could not be. */
export interface DeploymentNews extends OfRepository {
  kind: "deployment";
  /** What was deployed, as the pipeline names it: one of the parts that can be deployed. */
  part: string;
  environment: string;
  outcome: DeploymentOutcome;
  build: string | null;
  commit: string | null;
  by: CodeAuthor | null;
  /** Which request of the product it answers. */
  request: string | null;
}

/** What a pipeline says of runs, builds and deployments. */
export type PipelineNews = RunNews | BuildNews | DeploymentNews;

const text = z.string().trim().max(500);
const name = text.min(1).max(120);
const reference = z.looseObject({ id: text.min(1) }).optional();

const documentSchema = z.looseObject({
  subject: z.looseObject({
    id: text.min(1),
    content: z
      .looseObject({
        outcome: text.optional(),
        environment: z.looseObject({ id: name }).optional(),
        repository: reference,
        artifactId: text.optional(),
        url: text.optional(),
      })
      .default({}),
  }),
  customData: z
    .looseObject({
      repository: text.optional(),
      commit: hash.optional(),
      branch: text.optional(),
      build: name.optional(),
      environment: name.optional(),
      by: author.optional(),
      // What is none of ours answers nothing.
      request: z.uuid().optional().catch(undefined),
      url: text.optional(),
    })
    .default({}),
});

type Document = z.output<typeof documentSchema>;

/** The types that are read, all CDEvents' own (cdevents.dev, v0.4). */
const TYPE = /^dev\.cdevents\.(pipelinerun|taskrun|artifact|service)\.([a-z]+)\./;

const OUTCOMES: Record<string, DeploymentOutcome> = {
  deployed: "deployed",
  upgraded: "deployed",
  rolledback: "rolled back",
  removed: "removed",
};

/**
 * Reads what an event says of a pipeline. Which repository, commit, branch and build it is about is
 * not part of CDEvents: that stands in `customData`, or in `subject.content.repository`. An event that
 * names no repository is about none; what it says of items is read by `readDeliveryEvent` alone.
 * @param now when it came, for an event that does not say when it happened
 * @returns null for an event of another kind, or of one that lacks what makes it useful
 * @throws ZodError when something in it is not of its kind
 */
export function readPipelineEvent(event: CloudEvent, now: Instant): PipelineNews | null {
  const [, subject, predicate] = TYPE.exec(event.type) ?? [];
  if (!subject) return null;
  const document = documentSchema.parse(event.data);
  const { content } = document.subject;
  const said = document.customData;
  const repository = content.repository?.id ?? said.repository;
  if (!repository) return null;
  const where: OfRepository = {
    repository,
    at: event.time ? Date.parse(event.time) : now,
    url: linkOf(said.url ?? content.url),
  };
  if (subject === "pipelinerun") return runOf(where, document, predicate);
  if (subject === "artifact") return buildOf(where, document, predicate);
  return deploymentOf(where, document, { subject, predicate });
}

function runOf(where: OfRepository, { subject, customData }: Document, predicate: string) {
  const { commit, branch = null } = customData;
  if (!commit || (predicate !== "started" && predicate !== "finished")) return null;
  const passed = predicate === "started" ? null : wentWell(subject.content.outcome);
  return { ...where, kind: "run" as const, run: subject.id, commit, branch, passed };
}

function buildOf(where: OfRepository, { subject, customData }: Document, predicate: string) {
  const { commit, build = subject.id } = customData;
  if (!commit || (predicate !== "packaged" && predicate !== "published")) return null;
  return { ...where, kind: "build" as const, build, commit };
}

function deploymentOf(
  where: OfRepository,
  { subject, customData }: Document,
  { subject: about, predicate }: { subject: string; predicate: string },
): DeploymentNews | null {
  const environment = subject.content.environment?.id ?? customData.environment;
  if (!environment) return null;
  const outcome = about === "service" ? OUTCOMES[predicate] : failureOf(subject.content, predicate);
  if (!outcome) return null;
  return {
    ...{ ...where, kind: "deployment", environment, outcome },
    part: about === "service" ? subject.id : where.repository,
    build: customData.build ?? subject.content.artifactId ?? null,
    ...{ commit: customData.commit ?? null, by: customData.by ?? null },
    request: customData.request ?? null,
  };
}

/** A task for an environment that did not end well is a deployment that failed. */
const failureOf = (
  { outcome }: Document["subject"]["content"],
  predicate: string,
): DeploymentOutcome | undefined =>
  predicate === "finished" && !wentWell(outcome) ? "failed" : undefined;
