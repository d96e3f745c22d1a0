import type { Instant } from "@/core/calendar/instant";
import type { TestResult } from "@/core/item/outside";
import type { CodePerson } from "./item-code";
import type { Delivery, DeliveryFigures } from "./delivery-figures";
import type { Environment } from "./environment";
import type { DeploymentOutcome } from "./pipeline-event";
import type { WorkItem } from "./open-work";

/** A build that was put on an environment, or was to be. */
export interface DeployedBuild {
  id: string;
  repository: string;
  part: string;
  outcome: DeploymentOutcome;
  /** As the pipeline names it; null where it named only a commit. */
  build: string | null;
  commit: string | null;
  at: Instant;
  by: CodePerson | null;
  url: string | null;
}

/** Something that can be deployed. */
export interface Build {
  repository: string;
  name: string;
  at: Instant;
}

/** What somebody asked a pipeline to do, and no event has answered yet. */
export interface WaitingRequest {
  id: string;
  kind: "deploy" | "roll back";
  repository: string;
  build: string;
  by: string;
  at: Instant;
  /** Why the pipeline did not take it; null where it did. */
  refused: string | null;
}

/** An environment with what is on it. */
export interface EnvironmentView extends Environment {
  /** What is there now: one for each part that is deployed by itself. */
  now: DeployedBuild[];
  /** What was deployed there, the latest first. */
  history: DeployedBuild[];
  asked: WaitingRequest[];
}

/** How much of an item is on an environment. */
export interface WherePresence {
  environmentId: string;
  whole: boolean;
  since: Instant;
}

/** An item of which something is on main, and where it is. */
export interface WhereRow extends WorkItem {
  mergedAt: Instant;
  presences: WherePresence[];
  stateName: string;
  testResult: TestResult | null;
}

/** Main of a repository, and what can be deployed of it. */
export interface MainView {
  repository: string;
  head: string | null;
  pushedAt: Instant | null;
  /** The latest first. */
  builds: Build[];
}

/** What went live lately, and what that comes to. */
export interface DeliveriesView {
  /** What the live environment is called. */
  environment: string;
  figures: DeliveryFigures;
  /** The latest first. */
  deliveries: (Delivery &
    Pick<DeployedBuild, "build" | "commit" | "url"> & { by: string | null })[];
}

/** Deliveries are counted over so many weeks. */
export const DELIVERY_WEEKS = 12;

/** Which items of a project are on which environment. */
export interface WhatIsWhere {
  project: { key: string; name: string; zone: string };
  mains: MainView[];
  environments: EnvironmentView[];
  /** Environments that a pipeline spoke of and nobody has listed. */
  unlisted: string[];
  /** What is on its way to the last environment, or came there lately: the latest merged first. */
  rows: WhereRow[];
  /** How many of them belong to items that whoever looks may not see. */
  hidden: number;
  /** Whether there are more than are read. */
  more: boolean;
  /** Whether a pipeline runs beside the product, which lets its people in. */
  pipelineBeside: boolean;
  rights: { settings: boolean; deploy: boolean };
  now: Instant;
}

/** What came to the last environment within so many days is shown still. */
export const ARRIVED_DAYS = 14;
/** More rows nobody looks through. */
export const MOST_ROWS = 300;

/** The environment that things are on their way to: the live one, else the last. */
export const lastOf = <E extends Pick<Environment, "live">>(
  environments: readonly E[],
): E | undefined => environments.find(({ live }) => live) ?? environments.at(-1);

/** Which rows are looked at. */
export type WhereWay =
  { kind: "on the way" } | { kind: "waits at"; environmentId: string } | { kind: "arrived" };

/** Whether an item is all on an environment. */
export const isOn = (row: Pick<WhereRow, "presences">, environmentId: string): boolean =>
  row.presences.some((one) => one.environmentId === environmentId && one.whole);

/** The furthest environment that all of an item is on; null where it is on none. */
export function furthestOf<E extends Pick<Environment, "id">>(
  row: Pick<WhereRow, "presences">,
  environments: readonly E[],
): E | null {
  return environments.findLast(({ id }) => isOn(row, id)) ?? null;
}

/** The rows of one way to look: the longest at where they stand first. */
export function rowsOfWay(
  rows: readonly WhereRow[],
  environments: readonly EnvironmentView[],
  way: WhereWay,
): WhereRow[] {
  const last = lastOf(environments);
  const arrived = (row: WhereRow) => last !== undefined && isOn(row, last.id);
  switch (way.kind) {
    case "on the way":
      return rows.filter((row) => !arrived(row));
    case "arrived":
      return rows.filter(arrived);
    case "waits at":
      return rows.filter(
        (row) =>
          !arrived(row) && (furthestOf(row, environments)?.id ?? MERGED) === way.environmentId,
      );
  }
}

/** In the place of an environment: what is merged and on none. */
export const MERGED = "merged";

/**
 * In the order of the picture: what came least far first, then what came there last first.
 */
export function inOrderOfWay(
  rows: readonly WhereRow[],
  environments: readonly EnvironmentView[],
): WhereRow[] {
  const place = (row: WhereRow) => environments.findLastIndex(({ id }) => isOn(row, id));
  return rows.toSorted(
    (a, b) => place(a) - place(b) || sinceOf(b, place(b)) - sinceOf(a, place(a)),
  );
  function sinceOf(row: WhereRow, at: number): Instant {
    const id = environments[at]?.id;
    return row.presences.find((one) => one.environmentId === id)?.since ?? row.mergedAt;
  }
}

/** What a deployment would change. */
export interface DeployForecast {
  /** Items that would be all there and are not. */
  brings: WhereRow[];
  /** Items that would not be there any more. */
  takes: WhereRow[];
  /** How many commits come, and go. */
  commits: { come: number; go: number };
  /** How many of the items whoever looks may not see. */
  hidden: number;
}

/** What speaks against items that a deployment brings, as they stand. */
export const objectionsOf = (
  rows: readonly WhereRow[],
): { key: string; objection: "failed its test" | "was never tested" }[] =>
  rows.flatMap(({ key, testResult }) => {
    if (testResult === "passed") return [];
    return [{ key, objection: testResult === "failed" ? "failed its test" : "was never tested" }];
  });
