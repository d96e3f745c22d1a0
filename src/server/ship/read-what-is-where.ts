import { and, desc, eq, inArray, sql } from "drizzle-orm";
import { DAY, type Instant } from "@/core/calendar/instant";
import type { Environment } from "@/core/ship/environment";
import { environmentKey } from "@/core/ship/environment";
import { mergedSince } from "@/core/ship/what-is-where";
import {
  ARRIVED_DAYS,
  lastOf,
  MOST_ROWS,
  type MainView,
  type WhatIsWhere,
  type WhereRow,
} from "@/core/ship/what-is-where-view";
import { database, type Reader } from "@/db/connection";
import {
  codeBranch,
  codeBuild,
  codeChange,
  codeCommit,
  commitStanding,
  itemCode,
} from "@/db/schema";
import { namedItems } from "../item/list/named";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { hasPipeline } from "./code-host";
import { mayDeploy } from "./deployers";
import { readDeployments } from "./deployments";
import { environmentsOf } from "./environments";
import { readPresence } from "./presence";
import { repositoriesOf } from "./repository";

const BUILDS_OFFERED = 20;

/** Which items of a project are on which environment. @throws Refused */
export async function readWhatIsWhere(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<WhatIsWhere> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { id: projectId, key, name, zone } = access.project;
  const [repositories, environments] = await Promise.all([
    repositoriesOf(reader, projectId),
    environmentsOf(reader, projectId),
  ]);
  const [mains, deployments, candidates, deploy] = await Promise.all([
    readMains(reader, repositories),
    readDeployments(reader, { repositories, environments }),
    readCandidates(reader, { repositories, environments, now }),
    mayDeploy(reader, viewer, access),
  ]);
  const { rows, hidden } = await readWhereRows(viewer, {
    itemIds: candidates.slice(0, MOST_ROWS),
    ...{ environments, projectId },
  });
  return {
    project: { key, name, zone },
    mains,
    ...deployments,
    rows,
    hidden,
    more: candidates.length > MOST_ROWS,
    pipelineBeside: hasPipeline(),
    rights: { settings: access.may("edit workflow"), deploy },
    now,
  };
}

/** Where items are, as far as somebody may see them; what was withdrawn is left out. */
export async function readWhereRows(
  viewer: Viewer,
  {
    itemIds,
    environments,
    projectId,
  }: {
    itemIds: readonly string[];
    environments: readonly Environment[];
    /** Left out where items of other projects that share the repositories are wanted too. */
    projectId?: string;
  },
): Promise<{ rows: WhereRow[]; hidden: number }> {
  const [named, { merged, of }] = await Promise.all([
    namedItems(viewer, itemIds),
    readPresence(database(), itemIds),
  ]);
  const ids = new Map(environments.map((one) => [environmentKey(one.name), one.id]));
  const rows = itemIds.flatMap((id): WhereRow[] => {
    const item = named.get(id);
    const mergedAt = mergedSince(merged.get(id) ?? []);
    const isElsewhere = projectId !== undefined && item?.projectId !== projectId;
    if (!item || item.withdrawn || isElsewhere || mergedAt === null) return [];
    const presences = of(id).flatMap(({ environment, whole, since }) => {
      const environmentId = ids.get(environment);
      return environmentId ? [{ environmentId, whole, since }] : [];
    });
    const { key, title, typeId, stateName, testResult } = item;
    return [{ id, key, title, typeId, stateName, testResult, mergedAt, presences }];
  });
  return { rows, hidden: itemIds.filter((id) => !named.has(id)).length };
}

/**
 * The items of which something is on main and not on the last environment, or came there lately; what
 * was merged last first.
 */
async function readCandidates(
  reader: Reader,
  {
    repositories,
    environments,
    now,
  }: {
    repositories: readonly { id: string }[];
    environments: readonly Environment[];
    now: Instant;
  },
): Promise<string[]> {
  const ids = sql`any(${sql.param(repositories.map(({ id }) => id))}::uuid[])`;
  const last = lastOf(environments);
  const name = last ? environmentKey(last.name) : null;
  const lately = new Date(now - ARRIVED_DAYS * DAY).toISOString();
  // First the commits that are on their way: of all that there ever were they are few.
  const { rows } = await reader.execute<{ item_id: string }>(sql`
    with way as materialized (
      select c.repository_id, c.hash, c.branch, c.main_at from ${codeCommit} c
      where c.repository_id = ${ids} and c.main_at is not null and c.reverted_by is null
        and not exists (select 1 from ${commitStanding} s
          where s.repository_id = c.repository_id and s.hash = c.hash and s.environment = ${name}
            and s.gone_at is null and s.since < ${lately}::timestamptz)
    )
    select item_id from (
      select l.item_id, w.main_at from way w
      join ${itemCode} l
        on l.repository_id = w.repository_id and l.kind = 'commit' and l.name = w.hash
      union all
      select l.item_id, w.main_at from way w
      join ${itemCode} l
        on l.repository_id = w.repository_id and l.kind = 'branch' and l.name = w.branch
      union all
      select l.item_id, w.main_at from way w
      join ${codeChange} h on h.repository_id = w.repository_id and h.branch = w.branch
      join ${itemCode} l
        on l.repository_id = w.repository_id and l.kind = 'change' and l.name = h.name
    ) o
    group by item_id
    order by max(main_at) desc, item_id
    limit ${MOST_ROWS + 1}`);
  return rows.map((row) => row.item_id);
}

/** Main of each repository of which there is a main, and what was built of it last. */
async function readMains(
  reader: Reader,
  repositories: readonly { id: string; name: string }[],
): Promise<MainView[]> {
  const ids = repositories.map(({ id }) => id);
  const [branches, builds] = await Promise.all([
    reader
      .select()
      .from(codeBranch)
      .where(and(inArray(codeBranch.repositoryId, ids), eq(codeBranch.main, true))),
    Promise.all(ids.map((id) => latestBuilds(reader, id))),
  ]);
  return repositories.flatMap(({ id, name }, i): MainView[] => {
    const main = branches.find(({ repositoryId }) => repositoryId === id);
    if (!main && builds[i].length === 0) return [];
    return [
      {
        ...{ repository: name, head: main?.head ?? null, pushedAt: main?.pushedAt ?? null },
        builds: builds[i].map((one) => ({ repository: name, name: one.name, at: one.at })),
      },
    ];
  });
}

const latestBuilds = (reader: Reader, repositoryId: string) =>
  reader
    .select({ name: codeBuild.name, at: codeBuild.at })
    .from(codeBuild)
    .where(eq(codeBuild.repositoryId, repositoryId))
    .orderBy(desc(codeBuild.at), desc(codeBuild.name))
    .limit(BUILDS_OFFERED);
