import { environmentKey, type Environment } from "@/core/ship/environment";
import { staleOf, testedOf, type Stale, type Tested } from "@/core/ship/testing/case-standing";
import { wholeOn } from "@/core/ship/what-is-where";
import type { Reader } from "@/db/connection";
import { deployment } from "@/db/schema";
import { and, desc, inArray, ne } from "drizzle-orm";
import type { ItemsPresence } from "../presence";
import {
  casesOfItems,
  changedAtOf,
  lastFor,
  timesTried,
  type CaseNow,
  type Tried,
} from "./case-rows";

/** A case of an item with the last time that it was tried. */
export interface CaseOfItem {
  now: CaseNow;
  last: Tried | null;
  stale: Stale | null;
}

export interface TestedItem {
  tested: Tested;
  cases: CaseOfItem[];
}

/** How well some items are tested, by their ids; every one of them is in it. */
export async function testedItems(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, TestedItem>> {
  const [cases, changedAt] = await Promise.all([
    casesOfItems(reader, itemIds),
    changedAtOf(reader, itemIds),
  ]);
  const caseIds = [...new Set([...cases.values()].flat().map(({ id }) => id))];
  const tried = await timesTried(reader, caseIds);
  return new Map(
    itemIds.map((id) => {
      const own = (cases.get(id) ?? []).map((now): CaseOfItem => {
        const last = lastFor(tried, now.id, id);
        const known = { current: now.version, changedAt: changedAt.get(id) ?? null };
        return { now, last, stale: last ? staleOf(last, known) : null };
      });
      return [id, { tested: testedOf(own), cases: own }];
    }),
  );
}

/** Where an item can be tried: the last environment before live that has all of it. */
export function whereToTest(
  itemId: string,
  presence: ItemsPresence,
  environments: readonly Environment[],
): Environment | null {
  const whole = wholeOn(presence.of(itemId));
  const there = environments.filter(({ name }) => whole.has(environmentKey(name)));
  return there.findLast(({ live }) => !live) ?? there.at(-1) ?? null;
}

/** The build that each environment of some repositories has now, by the environment's key. */
export async function buildsNow(
  reader: Reader,
  repositoryIds: readonly string[],
): Promise<Map<string, { build: string; at: number }>> {
  if (repositoryIds.length === 0) return new Map();
  const rows = await reader
    .selectDistinctOn([deployment.environment], {
      environment: deployment.environment,
      build: deployment.build,
      at: deployment.at,
    })
    .from(deployment)
    .where(
      and(inArray(deployment.repositoryId, [...repositoryIds]), ne(deployment.outcome, "failed")),
    )
    .orderBy(deployment.environment, desc(deployment.at));
  return new Map(
    rows.flatMap(({ environment, build, at }) =>
      build === null ? [] : [[environment, { build, at }] as const],
    ),
  );
}
