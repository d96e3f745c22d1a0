import { and, desc, eq, inArray, isNull, ne, sql } from "drizzle-orm";
import { environmentKey, type Environment } from "@/core/ship/environment";
import type {
  DeployedBuild,
  EnvironmentView,
  WaitingRequest,
} from "@/core/ship/what-is-where-view";
import type { Reader } from "@/db/connection";
import { deployment, deploymentRequest, person } from "@/db/schema";
import { peopleOfMails } from "./code-people";

/** So many of an environment are looked back at. */
const HISTORY = 30;
/** A request that nobody answers is not waited for any longer. */
const WAITED = sql`now() - interval '1 day'`;

interface Asked {
  repositories: readonly { id: string; name: string }[];
  environments: readonly Environment[];
}

/** What is on the environments of a project, what was, and what was asked for. */
export async function readDeployments(
  reader: Reader,
  { repositories, environments }: Asked,
): Promise<{ environments: EnvironmentView[]; unlisted: string[] }> {
  const ids = repositories.map(({ id }) => id);
  const names = new Map(repositories.map(({ id, name }) => [id, name]));
  const [present, heard, histories, requests] = await Promise.all([
    readPresent(reader, ids),
    reader
      .selectDistinct({ key: deployment.environment, called: deployment.called })
      .from(deployment)
      .where(inArray(deployment.repositoryId, ids)),
    Promise.all(environments.map((one) => readHistory(reader, ids, environmentKey(one.name)))),
    readRequests(reader, { names, environments }),
  ]);
  const all = [...present, ...histories.flat()];
  const person = await peopleOfMails(
    reader,
    all.map(({ byMail }) => byMail),
  );
  const view = (row: typeof deployment.$inferSelect): DeployedBuild => ({
    id: row.id,
    repository: names.get(row.repositoryId)!,
    ...{ part: row.part, outcome: row.outcome, build: row.build, commit: row.commit, at: row.at },
    by: row.byMail === null ? null : person(row.byMail, row.byName ?? ""),
    url: row.url,
  });
  const listed = new Set(environments.map(({ name }) => environmentKey(name)));
  return {
    environments: environments.map((one, i) => ({
      ...one,
      now: present
        .filter((row) => row.environment === environmentKey(one.name))
        .map(view)
        .toSorted(byName),
      history: histories[i].map(view),
      asked: requests.get(one.id) ?? [],
    })),
    unlisted: [
      ...new Map(
        heard.filter(({ key }) => !listed.has(key)).map(({ key, called }) => [key, called]),
      ).values(),
    ],
  };
}

/** By the name of the repository, then of its part. */
const byName = (a: DeployedBuild, b: DeployedBuild): number =>
  a.repository.localeCompare(b.repository, "en") || a.part.localeCompare(b.part, "en");

/** The last deployment of each part on each environment, but for what is not there any more. */
async function readPresent(reader: Reader, repositoryIds: readonly string[]) {
  const rows = await reader
    .selectDistinctOn([deployment.repositoryId, deployment.environment, deployment.part])
    .from(deployment)
    .where(
      and(inArray(deployment.repositoryId, [...repositoryIds]), ne(deployment.outcome, "failed")),
    )
    .orderBy(
      deployment.repositoryId,
      deployment.environment,
      deployment.part,
      desc(deployment.at),
      desc(deployment.id),
    );
  return rows.filter(({ outcome }) => outcome !== "removed");
}

const readHistory = (reader: Reader, repositoryIds: readonly string[], environment: string) =>
  reader
    .select()
    .from(deployment)
    .where(
      and(
        inArray(deployment.repositoryId, [...repositoryIds]),
        eq(deployment.environment, environment),
      ),
    )
    .orderBy(desc(deployment.at), desc(deployment.id))
    .limit(HISTORY);

/** What was asked for lately and is not answered, by environment. */
async function readRequests(
  reader: Reader,
  {
    names,
    environments,
  }: { names: ReadonlyMap<string, string>; environments: readonly Environment[] },
): Promise<Map<string, WaitingRequest[]>> {
  const rows = await reader
    .select({
      ...{ id: deploymentRequest.id, kind: deploymentRequest.kind },
      ...{ repositoryId: deploymentRequest.repositoryId, build: deploymentRequest.build },
      ...{ at: deploymentRequest.askedAt, refused: deploymentRequest.refused },
      ...{ environmentId: deploymentRequest.environmentId, by: person.name },
    })
    .from(deploymentRequest)
    .innerJoin(person, eq(person.id, deploymentRequest.askedBy))
    .where(
      and(
        inArray(
          deploymentRequest.environmentId,
          environments.map(({ id }) => id),
        ),
        isNull(deploymentRequest.answeredAt),
        sql`${deploymentRequest.askedAt} > ${WAITED}`,
      ),
    )
    .orderBy(desc(deploymentRequest.askedAt));
  const asked = new Map<string, WaitingRequest[]>();
  for (const { environmentId, repositoryId, ...row } of rows) {
    const one = { ...row, repository: names.get(repositoryId) ?? "" };
    asked.set(environmentId, [...(asked.get(environmentId) ?? []), one]);
  }
  return asked;
}
