import { sql } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { maskIds } from "@/core/flow/outside-view";
import { shipped, type MiddleOf, type ShippedItem } from "@/core/flow/shipped";
import type { ShippedView } from "@/core/flow/learn-view";
import { environmentKey } from "@/core/ship/environment";
import { meaningOf } from "@/core/workflow/state-meaning";
import type { Workflow } from "@/core/workflow/workflow";
import type { Reader } from "@/db/connection";
import { itemTestCase, stay } from "@/db/schema";
import type { PromiseFilter } from "../intake/promises";
import type { ProjectRow } from "../people/access";
import { environmentsOf } from "../ship/environments";
import { itemsOfKind } from "./items-of-kind";
import { liveSince } from "../ship/live-since";
import { deliveriesTo } from "../ship/read-deliveries";
import { repositoriesOf } from "../ship/repository";
import { finishedWork } from "./unplanned";

interface Asked {
  workflows: readonly Workflow[];
  /** Items that whoever asks may not see: they count. */
  hidden: ReadonlySet<string>;
  period: { from: Instant; to: Instant };
  filter: PromiseFilter;
}

/** How what was delivered in a period was reviewed, tested and came to be live, and the four figures of delivery. */
export async function readShipped(
  reader: Reader,
  project: ProjectRow,
  { workflows, hidden, period, filter }: Asked,
): Promise<ShippedView> {
  const { id: projectId } = project;
  const [work, environments, repositories] = await Promise.all([
    finishedWork({ reader, projectId, ...period, filter }),
    environmentsOf(reader, projectId),
    repositoriesOf(reader, projectId),
  ]);
  const live = environments.find((one) => one.live);
  const ids = work.map(({ itemId }) => itemId);
  const filtered = filter.typeId !== undefined || filter.classOfService !== undefined;
  const place = live && {
    ...{ project, live, repositoryIds: repositories.map(({ id }) => id) },
  };
  const [liveAt, times, withCase, deliveries] = await Promise.all([
    live ? liveSince(reader, ids, environmentKey(live.name)) : new Map<string, Instant>(),
    timesIn(reader, ids, workflows),
    withCases(reader, ids),
    place && place.repositoryIds.length > 0
      ? deliveriesTo(reader, place, {
          ...{ since: period.from, to: period.to },
          itemIds: filtered ? await itemsOfKind(reader, projectId, filter) : null,
        })
      : null,
  ]);
  const { untested, ...middles } = shipped(
    work.map(({ itemId, finishedAt: deliveredAt }): ShippedItem => ({
      ...{ itemId, deliveredAt, liveAt: liveAt.get(itemId) ?? null },
      reviewMs: times.get(itemId)?.review ?? 0,
      testMs: times.get(itemId)?.test ?? 0,
      hasCase: withCase.has(itemId),
    })),
  );
  const seen = ({ median, ids: all }: MiddleOf): MiddleOf & { of: number } => ({
    ...{ median, ids: maskIds(all, hidden), of: all.length },
  });
  return {
    doneToLive: seen(middles.doneToLive),
    review: seen(middles.review),
    test: seen(middles.test),
    untested: { ids: maskIds(untested.ids, hidden), n: untested.ids.length, of: untested.of },
    deliveries,
  };
}

/** How long some items stood in states of their review and of their test, by their ids. */
async function timesIn(
  reader: Reader,
  ids: readonly string[],
  workflows: readonly Workflow[],
): Promise<Map<string, { review: number; test: number }>> {
  const meanings = workflows.flatMap(({ states }) =>
    states.map((state) => ({ id: state.id, ...meaningOf(state, states) })),
  );
  const statesOf = (wanted: "ofReview" | "ofTest") =>
    sql.param(meanings.filter((one) => one[wanted]).map(({ id }) => id));
  if (ids.length === 0) return new Map();
  const spent = sql`extract(epoch from ${stay.leftAt} - ${stay.enteredAt}) * 1000`;
  const { rows } = await reader.execute<{ item_id: string; review: number; test: number }>(sql`
    select ${stay.itemId} as item_id,
      coalesce(sum(${spent}) filter (where ${stay.stateId} = any(${statesOf("ofReview")}::text[])), 0)::float8 as review,
      coalesce(sum(${spent}) filter (where ${stay.stateId} = any(${statesOf("ofTest")}::text[])), 0)::float8 as test
    from ${stay}
    where ${stay.itemId} = any(${sql.param([...ids])}::uuid[]) and ${stay.leftAt} is not null
    group by ${stay.itemId}`);
  return new Map(rows.map(({ item_id, review, test }) => [item_id, { review, test }]));
}

async function withCases(reader: Reader, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await reader
    .selectDistinct({ id: itemTestCase.itemId })
    .from(itemTestCase)
    .where(sql`${itemTestCase.itemId} = any(${sql.param([...ids])}::uuid[])`);
  return new Set(rows.map(({ id }) => id));
}
