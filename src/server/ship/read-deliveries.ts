import { and, eq, gte, inArray, sql } from "drizzle-orm";
import { WEEK, type Instant } from "@/core/calendar/instant";
import { grouped } from "@/core/item/grouped";
import { deliveriesOf, deliveryFigures, type LiveDeployment } from "@/core/ship/delivery-figures";
import { environmentKey, type Environment } from "@/core/ship/environment";
import { DELIVERY_WEEKS, type DeliveriesView } from "@/core/ship/what-is-where-view";
import type { Reader } from "@/db/connection";
import { codeCommit, commitStanding, deployment } from "@/db/schema";

/**
 * What went live in the last weeks, and the four figures of it; null where no environment is marked as
 * the live one. Everything counts, also what whoever looks may not see.
 */
export async function readDeliveries(
  reader: Reader,
  {
    repositoryIds,
    environments,
    now,
  }: {
    repositoryIds: readonly string[];
    environments: readonly Environment[];
    now: Instant;
  },
): Promise<DeliveriesView | null> {
  const live = environments.find((one) => one.live);
  if (!live) return null;
  const since = now - DELIVERY_WEEKS * WEEK;
  const where = { repositoryIds, environment: environmentKey(live.name), since };
  const [rows, commits, firsts] = await Promise.all([
    readLive(reader, where),
    readFirstLive(reader, where),
    readFirsts(reader, where),
  ]);
  const written = grouped(commits, ({ repositoryId, part, at }) => keyOf(repositoryId, part, at));
  const happened = rows.map(({ id, repositoryId, part, at, outcome }): LiveDeployment => {
    // With the first of all came what was live before anybody told of it.
    const isFirst = firsts.get(`${repositoryId} ${part}`) === at;
    const own = isFirst ? [] : (written.get(keyOf(repositoryId, part, at)) ?? []);
    const writtenAt = own.map((commit) => commit.writtenAt);
    return { id, part: `${repositoryId} ${part}`, at, outcome, writtenAt };
  });
  const byId = new Map(rows.map((row) => [row.id, row]));
  return {
    environment: live.name,
    figures: deliveryFigures(happened, { from: since, to: now }),
    deliveries: deliveriesOf(happened).map((one) => {
      const { build, commit, url, byName } = byId.get(one.id)!;
      return { ...one, build, commit, url, by: byName };
    }),
  };
}

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

/** The commits that were live for the first time, but for merges, which nobody wrote. */
const readFirstLive = (reader: Reader, { repositoryIds, environment, since }: Where) =>
  reader
    .select({
      repositoryId: commitStanding.repositoryId,
      part: commitStanding.part,
      at: commitStanding.firstAt,
      writtenAt: codeCommit.authoredAt,
    })
    .from(commitStanding)
    .innerJoin(
      codeCommit,
      and(
        eq(codeCommit.repositoryId, commitStanding.repositoryId),
        eq(codeCommit.hash, commitStanding.hash),
      ),
    )
    .where(
      and(
        inArray(commitStanding.repositoryId, [...repositoryIds]),
        eq(commitStanding.environment, environment),
        gte(commitStanding.firstAt, since),
        sql`cardinality(${codeCommit.parents}) < 2`,
      ),
    );

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
