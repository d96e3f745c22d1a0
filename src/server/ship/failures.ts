import { and, isNotNull, isNull, sql } from "drizzle-orm";
import { DAY, type Instant } from "@/core/calendar/instant";
import type { NamedFailure } from "@/core/ship/delivery-figures";
import type { Reader } from "@/db/connection";
import { commitStanding, item, itemLink, release } from "@/db/schema";
import { openTo } from "../plan/timeboxes";
import { commitsOfItems } from "./item-commits";
import { liveSince } from "./live-since";

/** A release went out with what was deployed last, so long before it or a day after. */
const LONGEST_BEFORE = 14 * DAY;

/** A deployment to live, as far as it can fail. */
interface Deployed {
  id: string;
  repositoryId: string;
  part: string;
  at: Instant;
  outcome: string;
}

interface Where {
  projectId: string;
  repositoryIds: readonly string[];
  environment: string;
  since: Instant;
}

/** What names some deployments to live as failures, beside their being rolled back; by their ids. */
export async function namedFailures(
  reader: Reader,
  rows: readonly Deployed[],
  where: Where,
): Promise<Map<string, NamedFailure[]>> {
  const deployed = rows.filter(({ outcome }) => outcome === "deployed");
  const [withdrawn, hotfixes] = await Promise.all([
    withdrawnReleases(reader, where.projectId),
    readHotfixes(reader, where),
  ]);
  const failures = new Map<string, NamedFailure[]>();
  const name = (id: string, failure: NamedFailure) =>
    failures.set(id, [...(failures.get(id) ?? []), failure]);
  for (const { releasedAt, withdrawnAt } of withdrawn)
    for (const { id } of wentOutWith(deployed, releasedAt))
      name(id, { kind: "withdrawn", at: withdrawnAt, mendedAt: null });
  for (const { repositoryId, part, at, foundAt, mendedAt } of hotfixes) {
    const one = deployed.find(
      (row) => row.repositoryId === repositoryId && row.part === part && row.at === at,
    );
    if (one) name(one.id, { kind: "hotfix", at: foundAt, mendedAt });
  }
  return failures;
}

/** The last deployment of each part that a release was out with. */
function wentOutWith(deployed: readonly Deployed[], releasedAt: Instant): Deployed[] {
  const last = new Map<string, Deployed>();
  for (const one of deployed.toSorted((a, b) => a.at - b.at))
    if (one.at <= releasedAt + DAY && one.at >= releasedAt - LONGEST_BEFORE)
      last.set(`${one.repositoryId} ${one.part}`, one);
  return [...last.values()];
}

async function withdrawnReleases(
  reader: Reader,
  projectId: string,
): Promise<{ releasedAt: Instant; withdrawnAt: Instant }[]> {
  const rows = await reader
    .select({ releasedAt: release.releasedAt, withdrawnAt: release.withdrawnAt })
    .from(release)
    .where(
      and(
        openTo(reader, "release", release.id, projectId),
        isNull(release.removedAt),
        isNotNull(release.releasedAt),
        isNotNull(release.withdrawnAt),
      ),
    );
  return rows.map(({ releasedAt, withdrawnAt }) => ({
    ...{ releasedAt: releasedAt!, withdrawnAt: withdrawnAt! },
  }));
}

/** Expedite items that were found in, or came from, what a deployment brought, made after it. */
async function readHotfixes(reader: Reader, { repositoryIds, environment, since }: Where) {
  const { rows } = await reader.execute<{
    repository_id: string;
    part: string;
    at: number;
    item_id: string;
    found_at: number;
  }>(sql`
    select distinct s.repository_id, s.part, h.id as item_id,
      (extract(epoch from s.first_at) * 1000)::float8 as at,
      (extract(epoch from h.created_at) * 1000)::float8 as found_at
    from ${commitStanding} s
    join (${commitsOfItems(sql`l.repository_id = any(${sql.param([...repositoryIds])}::uuid[])`)}) o
      on o.repository_id = s.repository_id and o.hash = s.hash
    join ${itemLink} k on k.to_item_id = o.item_id and k.kind in ('came from', 'found in')
    join ${item} h on h.id = k.from_item_id
    where s.repository_id = any(${sql.param([...repositoryIds])}::uuid[])
      and s.environment = ${environment}
      and s.first_at >= ${new Date(since).toISOString()}::timestamptz
      and h.class_of_service = 'expedite' and h.withdrawn_at is null
      and h.created_at > s.first_at`);
  const mended = await liveSince(
    reader,
    [...new Set(rows.map(({ item_id }) => item_id))],
    environment,
  );
  return rows.map(({ repository_id: repositoryId, part, at, item_id, found_at: foundAt }) => ({
    ...{ repositoryId, part, at, foundAt, mendedAt: mended.get(item_id) ?? null },
  }));
}
