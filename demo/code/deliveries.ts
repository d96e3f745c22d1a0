import { DAY, HOUR, MINUTE, type Instant } from "@/core/calendar/instant";
import type { Random } from "@/core/forecast/random";
import type { ItemEvent } from "@/core/item/event";
import type { OutsideFact } from "@/core/item/outside";
import type { DeploymentOutcome } from "@/core/ship/pipeline-event";
import type { Workflow } from "@/core/workflow/workflow";
import type { DemoItem } from "../history";
import type { MadeRepository } from "./repository";

/*
 * What the crew's pipeline did with what was merged: it checked main, made builds, and deployed them;
 * to live when the histories of the items say that something went live.
 */

export const ENVIRONMENTS = ["development", "test", "acceptance", "live"] as const;
export type DemoEnvironment = (typeof ENVIRONMENTS)[number];

/** Something that came to main. */
interface Merge {
  commit: string;
  at: Instant;
  itemId: string;
  /** Whether it took something back. */
  back: boolean;
}

export interface DemoRun {
  name: string;
  commit: string;
  startedAt: Instant;
  endedAt: Instant;
  passed: boolean;
}

export interface DemoBuild {
  name: string;
  commit: string;
  at: Instant;
  /** How much of main it has: the place of its merge there. */
  reach: number;
}

export interface DemoDeployment {
  environment: DemoEnvironment;
  outcome: DeploymentOutcome;
  build: DemoBuild;
  at: Instant;
  /** Who asked for it; null where the pipeline did it by itself. */
  byId: string | null;
}

export interface DemoDelivery {
  runs: DemoRun[];
  builds: DemoBuild[];
  deployments: DemoDeployment[];
}

const FIRST_BUILD = 180;
const CHECK_TAKES = 3 * MINUTE;
const DEPLOY_TAKES = 2 * MINUTE;
/** What goes live within so long goes there together. */
const TOGETHER = 3 * HOUR;

/** All that came to main, in its order. */
export function mergesOf(made: MadeRepository): Merge[] {
  const merges = [...made.byStory].flatMap(([{ item, change }, { mergedAs }]): Merge[] =>
    mergedAs === null
      ? []
      : [{ commit: mergedAs, at: change!.mergedAt!, itemId: item.id, back: false }],
  );
  const back = made.revert;
  if (back) merges.push({ commit: back.hash, at: back.at, itemId: back.story.item.id, back: true });
  return merges.toSorted((a, b) => a.at - b.at);
}

/**
 * What was run, built and deployed.
 * @param broken whether what came to main last does not pass its checks
 */
export function deliveriesOf(
  made: MadeRepository,
  {
    items,
    workflow,
    random,
    broken,
    now,
  }: {
    items: readonly DemoItem[];
    workflow: Workflow;
    random: Random;
    broken: boolean;
    now: Instant;
  },
): DemoDelivery {
  const merges = mergesOf(made);
  const runs: DemoRun[] = [];
  const builds: DemoBuild[] = [];
  for (const [reach, { commit, at }] of merges.entries()) {
    const last = reach === merges.length - 1;
    const passed = !(last && broken) && (reach < 4 || last || !random.chance(0.04));
    const endedAt = Math.min(now - MINUTE, at + CHECK_TAKES);
    runs.push({ name: `run ${reach + 1}`, commit, startedAt: at + MINUTE, endedAt, passed });
    if (!passed) continue;
    const name = String(FIRST_BUILD + builds.length);
    builds.push({ name, commit, at: endedAt + MINUTE, reach });
  }
  const ready = builds.filter(({ at }) => at + DEPLOY_TAKES <= now);
  return {
    runs,
    builds: ready,
    deployments: [
      ...ready.map((build): DemoDeployment => ({
        ...{ environment: "development", outcome: "deployed", build, byId: null },
        at: build.at + DEPLOY_TAKES,
      })),
      ...regularly("test", ready, { days: [0, 1, 2, 3, 4], hours: [8, 11, 14], random, now }),
      ...regularly("acceptance", ready, { days: [1, 3], hours: [15], random, now }),
      ...toLive(merges, ready, { items, workflow, random, now }),
    ].toSorted((a, b) => a.at - b.at),
  };
}

/** The latest build that there is at a time. */
const latestAt = (builds: readonly DemoBuild[], at: Instant): DemoBuild | undefined =>
  builds.findLast((build) => build.at <= at);

/** At some hours of some days what is newest goes to an environment. */
function regularly(
  environment: DemoEnvironment,
  builds: readonly DemoBuild[],
  {
    days,
    hours,
    random,
    now,
  }: {
    /** Of the week, from Monday on. */
    days: readonly number[];
    hours: readonly number[];
    random: Random;
    now: Instant;
  },
): DemoDeployment[] {
  if (builds.length === 0) return [];
  const done: DemoDeployment[] = [];
  // To test the pipeline brings it by itself.
  const byId = environment === "test" ? null : "greta";
  const first = Math.floor(builds[0].at / DAY);
  for (let day = first; day * DAY < now; day++) {
    if (!days.includes((day + 3) % 7)) continue;
    for (const hour of hours) {
      const at = day * DAY + hour * HOUR + random.index(25) * MINUTE;
      const build = latestAt(builds, at - MINUTE);
      if (at > now || !build || build === done.at(-1)?.build) continue;
      // Once in a while it goes wrong, and is done again.
      if (random.chance(0.03))
        done.push({ environment, outcome: "failed", build, at: at - 40 * MINUTE, byId });
      done.push({ environment, outcome: "deployed", build, at, byId });
    }
  }
  return done.toSorted((a, b) => a.at - b.at);
}

/** Deployments to live, when items went there; two of them were not good and were taken back. */
function toLive(
  merges: readonly Merge[],
  builds: readonly DemoBuild[],
  {
    items,
    workflow,
    random,
    now,
  }: { items: readonly DemoItem[]; workflow: Workflow; random: Random; now: Instant },
): DemoDeployment[] {
  const live = workflow.states.find(({ name }) => name === "Live")!.id;
  const went = items
    .flatMap(({ snapshot, events }) =>
      events.filter(isMoveTo(live)).map(({ at }) => ({ at, itemId: snapshot.id })),
    )
    .toSorted((a, b) => a.at - b.at);
  const done: DemoDeployment[] = [];
  for (let i = 0; i < went.length;) {
    const at = went[i].at - 2 * MINUTE;
    const together = went.slice(i).filter((one) => one.at < went[i].at + TOGETHER);
    i += together.length;
    const ids = new Set(together.map(({ itemId }) => itemId));
    const needed = merges.findLastIndex((one) => one.at < at && ids.has(one.itemId) && !one.back);
    const before = done.at(-1)?.build;
    const build = builds.find((one) => one.reach >= needed && one.at < at);
    if (needed < 0 || !build || (before && build.reach <= before.reach)) continue;
    const deployed = { environment: "live", outcome: "deployed", build, byId: "greta" } as const;
    done.push({ ...deployed, at });
    const wrong = before && random.chance(0.06) && at + 5 * HOUR < now;
    if (!wrong) continue;
    const backAt = at + (40 + random.index(70)) * MINUTE;
    done.push({ ...deployed, outcome: "rolled back", build: before, at: backAt });
    done.push({ ...deployed, at: backAt + 2 * HOUR });
  }
  // In the order of time: what went live while another was being taken back waits for that.
  return done.filter((one, n) => n === 0 || done.slice(0, n).every(({ at }) => at < one.at));
}

const isMoveTo = (stateId: string) => (event: ItemEvent) =>
  event.kind === "moved" && event.new.stateId === stateId;

/** What an item hears of where it is, and when. */
export function presenceFacts(
  itemId: string,
  merges: readonly Merge[],
  { deployments }: DemoDelivery,
): { at: Instant; fact: OutsideFact }[] {
  const own = merges.flatMap((merge, place) =>
    merge.itemId === itemId ? [{ ...merge, place }] : [],
  );
  if (own.length === 0) return [];
  const happened = [
    ...own.map(({ at, place, back }) => ({ at, merged: { place, back }, deployed: null })),
    ...deployments
      .filter(({ at, outcome }) => at > own[0].at && outcome !== "failed")
      .map((deployed) => ({ at: deployed.at, merged: null, deployed })),
  ].toSorted((a, b) => a.at - b.at);
  const reach = new Map<DemoEnvironment, number>();
  let needed: number | null = null;
  const there = new Set<DemoEnvironment>();
  const facts: { at: Instant; fact: OutsideFact }[] = [];
  for (const { at, merged, deployed } of happened) {
    if (merged) needed = merged.back ? null : merged.place;
    if (deployed) reach.set(deployed.environment, deployed.build.reach);
    for (const environment of ENVIRONMENTS) {
      const whole = needed !== null && (reach.get(environment) ?? -1) >= needed;
      if (whole === there.has(environment)) continue;
      if (whole) there.add(environment);
      else there.delete(environment);
      const kind = whole ? "deployed" : "deployed no more";
      facts.push({ at: at + MINUTE, fact: { kind, environment } });
    }
  }
  return facts;
}
