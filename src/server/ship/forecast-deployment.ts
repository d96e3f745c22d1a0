import { and, eq } from "drizzle-orm";
import { environmentKey, type Environment } from "@/core/ship/environment";
import { wholeOn, type DeployedPart } from "@/core/ship/what-is-where";
import type { DeployForecast } from "@/core/ship/what-is-where-view";
import { database, type Reader } from "@/db/connection";
import { codeBuild, codeRepository, eventSource } from "@/db/schema";
import { speaksFor } from "../events/speakers";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { environmentsOf } from "./environments";
import { itemsOfCommits, presenceByItem, readParts, readPresence } from "./presence";
import { readWhereRows } from "./read-what-is-where";
import { differenceTo, type StandingPlace } from "./standing";

/** A build of a repository of a project, and an environment there. */
export interface WantedDeployment {
  repository: string;
  build: string;
  environmentId: string;
}

/** What is meant by a wanted deployment, in a project that somebody may read. @throws Refused */
export async function meantDeployment(
  reader: Reader,
  projectId: string,
  { repository, build, environmentId }: WantedDeployment,
): Promise<{ environment: Environment; repositoryId: string; commit: string }> {
  const environments = await environmentsOf(reader, projectId);
  const environment = environments.find(({ id }) => id === environmentId);
  if (!environment) throw notFound("environment");
  const [found] = await reader
    .select({ repositoryId: codeBuild.repositoryId, commit: codeBuild.commit })
    .from(codeBuild)
    .innerJoin(codeRepository, eq(codeRepository.id, codeBuild.repositoryId))
    .innerJoin(eventSource, eq(eventSource.id, codeRepository.sourceId))
    .where(
      and(speaksFor(projectId), eq(codeRepository.name, repository), eq(codeBuild.name, build)),
    );
  if (!found) throw notFound("build");
  return { environment, ...found };
}

/**
 * What a deployment would change, as things stand now: the event that says it happened is the truth.
 * @throws Refused
 */
export async function forecastDeployment(
  viewer: Viewer,
  projectKey: string,
  wanted: WantedDeployment,
): Promise<DeployForecast> {
  const reader = database();
  const where = { key: projectKey };
  const { project } = await enterProject({ reader, viewer, where, action: "read project" });
  const { environment, repositoryId, commit } = await meantDeployment(reader, project.id, wanted);
  const name = environmentKey(environment.name);
  const deployed = await readParts(reader, [repositoryId]);
  const parts = [...new Set(deployed.map(({ part }) => part))];
  const changes = await Promise.all(
    (parts.length > 0 ? parts : [wanted.repository]).map(async (part) => {
      const place = { repositoryId, environment: name, part };
      return { place, ...(await differenceTo(reader, place, commit)) };
    }),
  );
  const come = new Set(changes.flatMap((one) => one.come));
  const go = new Set(changes.flatMap((one) => one.go));
  const { brought, taken } = await itemsMoved(reader, { repositoryId, name, changes });
  const environments = [environment];
  const [brings, takes] = await Promise.all(
    [brought, taken].map((itemIds) => readWhereRows(viewer, { itemIds, environments })),
  );
  return {
    ...{ brings: brings.rows, takes: takes.rows, commits: { come: come.size, go: go.size } },
    hidden: brings.hidden + takes.hidden,
  };
}

/** The items that would be all there and are not, and those that are and would not be. */
async function itemsMoved(
  reader: Reader,
  {
    repositoryId,
    name,
    changes,
  }: {
    repositoryId: string;
    name: string;
    changes: readonly { place: StandingPlace; come: string[]; go: string[] }[];
  },
): Promise<{ brought: string[]; taken: string[] }> {
  const hashes = changes.flatMap(({ come, go }) => [...come, ...go]);
  const itemIds = await itemsOfCommits(reader, repositoryId, hashes);
  const { merged, standings, parts, of } = await readPresence(reader, itemIds);
  const gone = new Set(
    changes.flatMap(({ place, go }) => go.map((hash) => `${place.part} ${hash}`)),
  );
  const after = [
    ...standings.filter(
      (one) =>
        one.repositoryId !== repositoryId ||
        one.environment !== name ||
        !gone.has(`${one.part} ${one.hash}`),
    ),
    ...changes.flatMap(({ place, come }) => come.map((hash) => ({ ...place, hash, since: 0 }))),
  ];
  const partsAfter = uniqueParts([...parts, ...changes.map(({ place }) => place)]);
  const then = presenceByItem({ merged, standings: after, parts: partsAfter });
  const moved = itemIds.map((id) => ({
    id,
    before: wholeOn(of(id)).has(name),
    after: wholeOn(then(id)).has(name),
  }));
  return {
    brought: moved.filter((one) => one.after && !one.before).map(({ id }) => id),
    taken: moved.filter((one) => one.before && !one.after).map(({ id }) => id),
  };
}

const uniqueParts = (parts: readonly DeployedPart[]): DeployedPart[] => [
  ...new Map(
    parts.map((one) => [[one.repositoryId, one.environment, one.part].join(" "), one]),
  ).values(),
];
