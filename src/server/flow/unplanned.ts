import { and, eq, gte, isNull, lt, min, sql, type SQLWrapper } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Instant } from "@/core/calendar/instant";
import { dayStart, parseIsoDate } from "@/core/calendar/zone";
import { maskIds } from "@/core/flow/outside-view";
import {
  escapedByRelease,
  unplannedShare,
  velocity,
  type FinishedWork,
} from "@/core/flow/unplanned";
import type { Reader } from "@/db/connection";
import { item, itemLink, itemType, release, report } from "@/db/schema";
import { ofKind } from "./items-of-kind";
import type { PromiseFilter } from "../intake/promises";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { UNIT_LEVEL } from "@/core/item/item-type";
import type { UnplannedView } from "@/core/flow/learn-view";

const SPRINTS_SHOWN = 6;

/** Items by their first delivery, with what measures of planning ask about them. */
export async function finishedWork({
  reader,
  projectId,
  from,
  to,
  filter = {},
}: {
  reader: Reader;
  projectId: string;
  from: Instant;
  to: Instant;
  filter?: PromiseFilter;
}): Promise<FinishedWork[]> {
  const rows = await reader
    .select({
      itemId: item.id,
      origin: item.origin,
      estimate: item.estimate,
      deliveredAt: item.deliveredAt,
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, projectId),
        eq(itemType.level, UNIT_LEVEL),
        gte(item.deliveredAt, from),
        lt(item.deliveredAt, to),
        ofKind(filter),
      ),
    );
  return rows.map(({ deliveredAt, ...row }) => ({ ...row, finishedAt: deliveredAt! }));
}

interface Asked {
  /** Items that whoever asks may not see: they count. */
  hidden: ReadonlySet<string>;
  period: { from: Instant; to: Instant };
  now: Instant;
  filter: PromiseFilter;
}

export async function readUnplanned(
  reader: Reader,
  project: { id: string; zone: string },
  { hidden, period, now, filter }: Asked,
): Promise<UnplannedView> {
  const [sprints, releases] = [
    await loadSprints(reader, project.id),
    await loadReleases(reader, project.id),
  ];
  const ended = sprints
    .filter((s) => dayStart(parseIsoDate(s.startsOn), project.zone) <= now)
    .slice(-SPRINTS_SHOWN);
  const first = ended[0] ? dayStart(parseIsoDate(ended[0].startsOn), project.zone) : now;
  const work = await finishedWork({
    reader,
    projectId: project.id,
    from: Math.min(first, period.from),
    to: now + 1,
    filter,
  });
  const origin = alias(item, "origin");
  const reported = reader
    .select({ itemId: report.itemId, at: min(report.receivedAt).as("reported_at") })
    .from(report)
    .where(eq(report.status, "accepted"))
    .groupBy(report.itemId)
    .as("reported");
  // What was reported before its release was out, or of work that did not go out with it, has not
  // escaped: it was found on the way.
  const dayOf = (at: SQLWrapper) => sql`(${at} at time zone ${project.zone})::date`;
  const day = dayOf(sql`coalesce(${reported.at}, ${item.createdAt})`);
  const wasOut = sql`greatest(${dayOf(release.releasedAt)}, ${dayOf(origin.deliveredAt)}) <= ${day}
    and ${release.releasedAt} is not null and ${origin.deliveredAt} is not null`;
  const found = await reader
    .select({ itemId: item.id, releaseId: release.id })
    .from(item)
    .innerJoin(itemLink, and(eq(itemLink.fromItemId, item.id), eq(itemLink.kind, "came from")))
    .innerJoin(origin, eq(origin.id, itemLink.toItemId))
    .innerJoin(release, eq(release.id, origin.releaseId))
    .leftJoin(reported, eq(reported.itemId, item.id))
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        isNull(origin.withdrawnAt),
        wasOut,
        gte(item.createdAt, period.from),
        lt(item.createdAt, period.to),
        ofKind(filter),
      ),
    );
  const nameOf = (id: string) =>
    releases.find((r) => r.id === id)?.name ?? "a release that was taken out";
  const share = unplannedShare(
    work.filter((w) => w.finishedAt >= period.from && w.finishedAt < period.to),
  );
  return {
    share: { ...share, unplanned: maskIds(share.unplanned, hidden) },
    escaped: [...escapedByRelease(found)]
      .map(([id, ids]) => ({ release: nameOf(id), ids: maskIds(ids, hidden) }))
      .sort((a, b) => b.ids.length - a.ids.length),
    velocity: ended.map((s) => ({
      sprint: s.name,
      points: velocity(
        work,
        dayStart(parseIsoDate(s.startsOn), project.zone),
        dayStart(parseIsoDate(s.endsOn) + 1, project.zone),
      ),
    })),
  };
}
