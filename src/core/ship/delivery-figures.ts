import { DAY, type Days, type Instant } from "@/core/calendar/instant";
import { ascending, quantile } from "@/core/flow/quantile";
import type { DeploymentOutcome } from "./pipeline-event";

/*
 * The four figures of software delivery (Forsgren, Humble and Kim, "Accelerate", 2018; dora.dev), over
 * deployments to the environment that is live, for each part that is deployed by itself.
 */

/**
 * What can name a deployment as a failure; which of them do is a setting of the project. An older build was put back;
 * the release of something that it brought was taken back; something expedite was found in what it brought.
 */
export const FAILURES = ["rolled back", "withdrawn", "hotfix"] as const;
export type FailureKind = (typeof FAILURES)[number];

export const FAILURE_WORDS: Record<FailureKind, string> = {
  "rolled back": "an older build was put back",
  withdrawn: "the release that it went out with was taken back",
  hotfix: "something expedite was found in what it brought",
};

/** That something names a deployment as a failure. */
export interface NamedFailure {
  kind: Exclude<FailureKind, "rolled back">;
  at: Instant;
  /** When what mends it was live; null where it is not yet, or the next deployment of the part ends it. */
  mendedAt: Instant | null;
}

/** Something that happened to what is live. */
export interface LiveDeployment {
  id: string;
  part: string;
  at: Instant;
  outcome: DeploymentOutcome;
  /** Of the commits that were live with it for the first time: when each was written. */
  writtenAt: readonly Instant[];
  failures?: readonly NamedFailure[];
}

/** Why a deployment failed, and when that was over; null while it is not. */
export interface Failure {
  kind: FailureKind;
  endedAt: Instant | null;
}

/** A deployment to live that went well, and what became of it. */
export interface Delivery {
  id: string;
  at: Instant;
  commits: number;
  /** From writing to live, the median of its commits in milliseconds; null where it brought none. */
  leadTime: number | null;
  /** Null where it did not fail. */
  failure: Failure | null;
}

export interface DeliveryFigures {
  /** Over how many days they are counted. */
  days: Days;
  deployments: number;
  /** Days from one deployment to the next on average; null without any. */
  everyDays: Days | null;
  /** From writing a commit to its first live deployment, median in milliseconds. */
  leadTime: number | null;
  /** How many of the deployments failed, by what names a failure. */
  failed: number;
  /** The share of those; null without any deployment. */
  failureShare: number | null;
  /** From a failing deployment to the one that ended it, median in milliseconds. */
  timeToRestore: number | null;
}

const median = (values: readonly number[]): number | null =>
  values.length === 0 ? null : quantile(ascending(values), 0.5, 7);

/**
 * Deployments that went well, with what became of each: one is rolled back by the next thing that
 * happens to its part, if that puts an older build back.
 * @param all in any order
 * @param names what names a failure; the first of them counts
 * @returns the latest first
 */
export function deliveriesOf(
  all: readonly LiveDeployment[],
  names: readonly FailureKind[] = FAILURES,
): Delivery[] {
  const happened = all
    .filter(({ outcome }) => outcome !== "failed")
    .toSorted((a, b) => a.at - b.at);
  return happened
    .flatMap((one, i): Delivery[] => {
      if (one.outcome !== "deployed") return [];
      const later = happened.slice(i + 1).filter(({ part }) => part === one.part);
      return [
        {
          ...{ id: one.id, at: one.at, commits: one.writtenAt.length },
          leadTime: median(one.writtenAt.map((at) => one.at - at)),
          failure: failureOf(one, later, names),
        },
      ];
    })
    .toReversed();
}

/** @param later what happened to its part afterwards, the first first */
function failureOf(
  { failures = [] }: LiveDeployment,
  later: readonly LiveDeployment[],
  names: readonly FailureKind[],
): Failure | null {
  const [next] = later;
  const rolledBack = next?.outcome === "rolled back" ? next.at : null;
  if (rolledBack !== null && names.includes("rolled back"))
    return { kind: "rolled back", endedAt: rolledBack };
  const [named] = failures
    .filter(({ kind }) => names.includes(kind))
    .toSorted((a, b) => a.at - b.at);
  if (!named) return null;
  const nextAfter = later.find(({ at }) => at >= named.at)?.at ?? null;
  return {
    kind: named.kind,
    endedAt: named.mendedAt ?? (named.kind === "withdrawn" ? nextAfter : null),
  };
}

/** Which deployments of a stretch of time are counted. */
export interface Counting {
  from: Instant;
  to: Instant;
  names?: readonly FailureKind[];
  /** Left out: all of them. */
  counts?: (one: Pick<LiveDeployment, "writtenAt">) => boolean;
}

/**
 * The four figures of a stretch of time. A deployment counts in the stretch in which it happened, with
 * all that became of it since.
 */
export function deliveryFigures(
  all: readonly LiveDeployment[],
  { from, to, names = FAILURES, counts = () => true }: Counting,
): DeliveryFigures {
  const counted = new Set(
    all
      .filter((one) => one.outcome === "deployed" && from <= one.at && one.at < to && counts(one))
      .map(({ id }) => id),
  );
  const deliveries = deliveriesOf(all, names).filter(({ id }) => counted.has(id));
  const days = (to - from) / DAY;
  const failed = deliveries.filter(({ failure }) => failure !== null);
  const leadTimes = all
    .filter(({ id }) => counted.has(id))
    .flatMap(({ at, writtenAt }) => writtenAt.map((written) => at - written));
  const restored = failed.flatMap(({ at, failure }) =>
    failure!.endedAt === null ? [] : [failure!.endedAt - at],
  );
  return {
    ...{ days, deployments: deliveries.length, failed: failed.length },
    everyDays: deliveries.length === 0 ? null : days / deliveries.length,
    leadTime: median(leadTimes),
    failureShare: deliveries.length === 0 ? null : failed.length / deliveries.length,
    timeToRestore: median(restored),
  };
}
