import { DAY, type Days, type Instant } from "@/core/calendar/instant";
import { ascending, quantile } from "@/core/flow/quantile";
import type { DeploymentOutcome } from "./pipeline-event";

/*
 * The four figures of software delivery (Forsgren, Humble and Kim, "Accelerate", 2018; dora.dev), over
 * deployments to the environment that is live, for each part that is deployed by itself.
 */

/** Something that happened to what is live. */
export interface LiveDeployment {
  id: string;
  part: string;
  at: Instant;
  outcome: DeploymentOutcome;
  /** Of the commits that were live with it for the first time: when each was written. */
  writtenAt: readonly Instant[];
}

/** A deployment to live that went well, and what became of it. */
export interface Delivery {
  id: string;
  at: Instant;
  commits: number;
  /** From writing to live, the median of its commits in milliseconds; null where it brought none. */
  leadTime: number | null;
  /** When it was taken back, where it had to be. */
  takenBackAt: Instant | null;
}

export interface DeliveryFigures {
  /** Over how many days they are counted. */
  days: Days;
  deployments: number;
  /** Days from one deployment to the next on average; null without any. */
  everyDays: Days | null;
  /** From writing a commit to its first live deployment, median in milliseconds. */
  leadTime: number | null;
  /** How many of the deployments had to be taken back. */
  failed: number;
  /** The share of those; null without any deployment. */
  failureShare: number | null;
  /** From a failing deployment to the one that ended it, median in milliseconds. */
  timeToRestore: number | null;
}

const median = (values: readonly number[]): number | null =>
  values.length === 0 ? null : quantile(ascending(values), 0.5, 7);

/**
 * Deployments that went well, with what became of each: one is taken back by the next thing that
 * happens to its part, if that puts an older build back.
 * @param all in any order
 * @returns the latest first
 */
export function deliveriesOf(all: readonly LiveDeployment[]): Delivery[] {
  const happened = all
    .filter(({ outcome }) => outcome !== "failed")
    .toSorted((a, b) => a.at - b.at);
  return happened
    .flatMap((one, i): Delivery[] => {
      if (one.outcome !== "deployed") return [];
      const next = happened.slice(i + 1).find(({ part }) => part === one.part);
      return [
        {
          ...{ id: one.id, at: one.at, commits: one.writtenAt.length },
          leadTime: median(one.writtenAt.map((at) => one.at - at)),
          takenBackAt: next?.outcome === "rolled back" ? next.at : null,
        },
      ];
    })
    .toReversed();
}

/**
 * The four figures of a stretch of time. A deployment counts in the stretch in which it happened, with
 * all that became of it since.
 */
export function deliveryFigures(
  all: readonly LiveDeployment[],
  { from, to }: { from: Instant; to: Instant },
): DeliveryFigures {
  const isIn = ({ at }: { at: Instant }) => from <= at && at < to;
  const deliveries = deliveriesOf(all).filter(isIn);
  const days = (to - from) / DAY;
  const failed = deliveries.filter(({ takenBackAt }) => takenBackAt !== null);
  const leadTimes = all
    .filter((one) => one.outcome === "deployed" && isIn(one))
    .flatMap(({ at, writtenAt }) => writtenAt.map((written) => at - written));
  return {
    ...{ days, deployments: deliveries.length, failed: failed.length },
    everyDays: deliveries.length === 0 ? null : days / deliveries.length,
    leadTime: median(leadTimes),
    failureShare: deliveries.length === 0 ? null : failed.length / deliveries.length,
    timeToRestore: median(failed.map(({ at, takenBackAt }) => takenBackAt! - at)),
  };
}
