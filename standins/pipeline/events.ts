import { randomUUID } from "node:crypto";
import type { FoundResults } from "./results";
import type { Build, Run } from "./state";

/* What the pipeline tells, as CloudEvents 1.0 with CDEvents 0.4 in them. */

const CDEVENTS = "0.4.1";

interface Told {
  /** The pipeline's own address. */
  address: string;
  repository: string;
  type: string;
  id: string;
  content?: object;
  customData: object;
}

function eventOf({ address, repository, type, id, content = {}, customData }: Told): object {
  const [eventId, time] = [randomUUID(), new Date().toISOString()];
  const source = `${address}/${repository}`;
  return {
    ...{ specversion: "1.0", id: eventId, source, type, time, subject: id },
    datacontenttype: "application/json",
    data: {
      context: { version: CDEVENTS, id: eventId, source, type, timestamp: time },
      subject: { id, source, content: { repository: { id: repository }, ...content } },
      customData,
    },
  };
}

const pageOfRun = (address: string, { id }: Run): string => `${address}/runs/${id}`;

/** That the checks of a commit began, or ended. */
export const runTold = (address: string, run: Run, predicate: "started" | "finished"): object =>
  eventOf({
    ...{ address, repository: run.repository, id: run.id },
    type: `dev.cdevents.pipelinerun.${predicate}.0.2.0`,
    content: {
      ...{ pipelineName: "check", url: pageOfRun(address, run) },
      ...(predicate === "finished" ? { outcome: outcomeOf(run) } : {}),
    },
    customData: {
      ...{ commit: run.commit, branch: run.branch },
      ...(run.change ? { change: run.change } : {}),
      url: pageOfRun(address, run),
    },
  });

/** What the tests of a run came to, as JUnit-style XML. */
export const resultsTold = (address: string, run: Run, { name, xml }: FoundResults): object =>
  eventOf({
    ...{ address, repository: run.repository, id: `${run.id} ${name}` },
    type: "dev.cdevents.testsuiterun.finished.0.2.0",
    content: { outcome: outcomeOf(run) },
    customData: { commit: run.commit, run: run.id, junit: xml, url: pageOfRun(address, run) },
  });

const outcomeOf = ({ status }: Run): string => (status === "passed" ? "success" : "failure");

/** That something was built and can be deployed. */
export const buildTold = (address: string, build: Build, run: Run): object =>
  eventOf({
    ...{ address, repository: build.repository, id: build.name },
    type: "dev.cdevents.artifact.published.0.2.0",
    customData: { build: build.name, commit: build.commit, url: pageOfRun(address, run) },
  });

/** That a build is on an environment now, or could not be put there. */
export function deploymentTold(address: string, run: Run): object {
  const { repository, environment, build, commit, by, request, back, status } = run;
  const customData = {
    ...{ build, commit, url: pageOfRun(address, run) },
    ...(by ? { by } : {}),
    ...(request ? { request } : {}),
  };
  const where = { environment: { id: environment } };
  if (status === "failed")
    return eventOf({
      ...{ address, repository, id: run.id, type: "dev.cdevents.taskrun.finished.0.2.0" },
      content: { ...where, taskName: "deploy", outcome: "failure" },
      customData,
    });
  return eventOf({
    ...{ address, repository, id: repository },
    type: `dev.cdevents.service.${back ? "rolledback" : "deployed"}.0.2.0`,
    content: { ...where, artifactId: build },
    customData,
  });
}
