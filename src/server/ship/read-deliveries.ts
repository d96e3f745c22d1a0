import { and, eq, gte, inArray, sql } from "drizzle-orm";
import { WEEK, type Instant } from "@/core/calendar/instant";
import { deliveriesOf, deliveryFigures, type LiveDeployment } from "@/core/ship/delivery-figures";
import { environmentKey, type Environment } from "@/core/ship/environment";
import { DELIVERY_WEEKS, type DeliveriesView } from "@/core/ship/what-is-where-view";
import { database, type Reader } from "@/db/connection";
import { codeCommit, commitStanding, deployment } from "@/db/schema";
import { enterProject, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { environmentsOf } from "./environments";
import { namedFailures } from "./failures";
import { commitsOfItems, linksOfItems } from "./item-commits";
import { repositoriesOf } from "./repository";

/**
 * What went live in the last weeks, and the four figures of it; nothing where no environment is marked
 * as the live one. Everything counts, also what whoever looks may not see. @throws Refused
 */
export async function readDeliveries(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<{ deliveries: DeliveriesView | null }> {
  const reader = database();
  const asked = { key: projectKey };
  const { project } = await enterProject({
    ...{ reader, viewer, where: asked, action: "read project" },
  });
  const [repositories, environments] = await Promise.all([
    repositoriesOf(reader, project.id),
    environmentsOf(reader, project.id),
  ]);
  const live = environments.find((one) => one.live);
  if (!live) return { deliveries: null };
  const of = { project, repositoryIds: repositories.map(({ id }) => id), live };
  return {
    deliveries: await deliveriesTo(reader, of, { since: now - DELIVERY_WEEKS * WEEK, to: now }),
  };
}

/** Whose deployments are read, and to where. */
export interface LivePlace {
  project: Pick<ProjectRow, "id" | "failures">;
  repositoryIds: readonly string[];
  live: Environment;
}

/** A stretch of time, and the items that deployments count by; null: all count. */
interface Stretch {
  since: Instant;
  to: Instant;
  itemIds?: readonly string[] | null;
}

/** What went live in a stretch of time, and the four figures of it. */
export async function deliveriesTo(
  reader: Reader,
  { project, repositoryIds, live }: LivePlace,
  { since, to, itemIds = null }: Stretch,
): Promise<DeliveriesView> {
  const where = { repositoryIds, environment: environmentKey(live.name), since };
  const [rows, written, firsts] = await Promise.all([
    readLive(reader, where),
    readFirstLive(reader, where, itemIds),
    readFirsts(reader, where),
  ]);
  const failures = await namedFailures(reader, rows, { ...where, projectId: project.id });
  const happened = rows.map(({ id, repositoryId, part, at, outcome }): LiveDeployment => {
    // With the first of all came what was live before anybody told of it.
    const isFirst = firsts.get(`${repositoryId} ${part}`) === at;
    const writtenAt = isFirst ? [] : (written.get(keyOf(repositoryId, part, at)) ?? []);
    const named = { part: `${repositoryId} ${part}`, failures: failures.get(id) };
    return { id, at, outcome, writtenAt, ...named };
  });
  const byId = new Map(rows.map((row) => [row.id, row]));
  const names = project.failures;
  const counts = itemIds === null ? undefined : ({ writtenAt }: Brought) => writtenAt.length > 0;
  return {
    environment: live.name,
    figures: deliveryFigures(happened, { from: since, to, names, counts }),
    deliveries: deliveriesOf(happened, names)
      .filter(({ commits }) => itemIds === null || commits > 0)
      .map((one) => {
        const { build, commit, url, byName } = byId.get(one.id)!;
        return { ...one, build, commit, url, by: byName };
      }),
  };
}

type Brought = Pick<LiveDeployment, "writtenAt">;

interface Where {
  repositoryIds: readonly string[];
  environment: string;
  since: Instant;
}

const keyOf = (repositoryId: string, part: string, at: Instant): string =>
  [repositoryId, part, at].join(" ");

const readLive = (reader: Reader, { repositoryIds, environment, since }: Where) =>
  reader
    .select()
    .from(deployment)
    .where(
      and(
        inArray(deployment.repositoryId, [...repositoryIds]),
        eq(deployment.environment, environment),
        gte(deployment.at, since),
      ),
    );

/** When commits were written that were live for the first time; merges, which nobody wrote, are none. */
async function readFirstLive(
  reader: Reader,
  { repositoryIds, environment, since }: Where,
  itemIds: readonly string[] | null,
) {
  const ofItems =
    itemIds === null
      ? sql``
      : sql`and (s.repository_id, s.hash) in (select o.repository_id, o.hash
          from (${commitsOfItems(linksOfItems(itemIds))}) o)`;
  const { rows } = await reader.execute<{
    repository_id: string;
    part: string;
    at: number;
    written_at: number[];
  }>(sql`
    select s.repository_id, s.part, (extract(epoch from s.first_at) * 1000)::float8 as at,
      array_agg((extract(epoch from c.authored_at) * 1000)::float8) as written_at
    from ${commitStanding} s
    join ${codeCommit} c on c.repository_id = s.repository_id and c.hash = s.hash
    where s.repository_id = any(${sql.param([...repositoryIds])}::uuid[])
      and s.environment = ${environment}
      and s.first_at >= ${new Date(since).toISOString()}::timestamptz
      and cardinality(c.parents) < 2 ${ofItems}
    group by s.repository_id, s.part, s.first_at`);
  return new Map(rows.map((row) => [keyOf(row.repository_id, row.part, row.at), row.written_at]));
}

/** When something of each part was live for the first time at all. */
async function readFirsts(
  reader: Reader,
  { repositoryIds, environment }: Where,
): Promise<Map<string, Instant>> {
  const rows = await reader
    .select({
      repositoryId: deployment.repositoryId,
      part: deployment.part,
      at: sql<string>`min(${deployment.at})`,
    })
    .from(deployment)
    .where(
      and(
        inArray(deployment.repositoryId, [...repositoryIds]),
        eq(deployment.environment, environment),
        eq(deployment.outcome, "deployed"),
      ),
    )
    .groupBy(deployment.repositoryId, deployment.part);
  return new Map(
    rows.map(({ repositoryId, part, at }) => [`${repositoryId} ${part}`, new Date(at).getTime()]),
  );
}
