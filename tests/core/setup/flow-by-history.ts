import {
  cutAt,
  mergeIntervals,
  overlap,
  type Instant,
  type Interval,
} from "@/core/calendar/instant";
import { dayNumber } from "@/core/calendar/zone";
import type { FlowFacts, Running, StateStep, StateSum } from "@/core/flow/facts";
import { delivered, timed, type Finished } from "@/core/flow/measures";
import type { Period } from "@/core/flow/period";
import { finishesOf } from "@/core/item/start-finish";
import type { Stay } from "@/core/item/snapshot";
import { isInProgress } from "@/core/workflow/state";

/*
 * The facts of the flow worked out one item at a time from where it was when, as the measures are
 * defined. The product reads the same facts from what it keeps; tests hold the two together.
 */

/** Where an item was when, and when it was blocked. */
export interface FlowHistory {
  id: string;
  key: string;
  title: string;
  typeId: string;
  classOfService: string;
  /** Oldest first, without gaps; the last is open unless the item was withdrawn. */
  stays: Stay[];
  blocks: Interval[];
  /** When it was ready for its next step. */
  readies?: Interval[];
}

/**
 * The stretches during which an item was in progress. The first begins at the commitment point;
 * each ends at the delivery point or where the item went back to unstarted.
 */
export function clockOf({ stays }: Pick<FlowHistory, "stays">): Interval[] {
  const clock: Interval[] = [];
  for (const stay of stays) {
    if (!isInProgress(stay.kind)) continue;
    const last = clock.at(-1);
    if (last && last.to === stay.from) last.to = stay.to;
    else clock.push({ from: stay.from, to: stay.to });
  }
  return clock;
}

/** Who was in a state just before an instant. */
export const inStateAt = (histories: readonly FlowHistory[], stateId: string, at: Instant) =>
  histories.filter((h) =>
    h.stays.some((s) => s.stateId === stateId && s.from < at && (s.to === null || s.to >= at)),
  );

/** Items started and not finished at an instant. */
export const inProgressAt = (histories: readonly FlowHistory[], at: Instant) =>
  histories.filter((h) =>
    h.stays.some((s) => isInProgress(s.kind) && s.from <= at && (s.to === null || s.to > at)),
  );

/** Each start in a period. */
export const startsIn = (histories: readonly FlowHistory[], { from, to }: Period) =>
  histories
    .flatMap((h) => clockOf(h).map((c) => ({ itemId: h.id, at: c.from })))
    .filter(({ at }) => at >= from && at < to)
    .sort((a, b) => a.at - b.at);

/** The facts of some histories. @param now for what is in progress still */
export function factsOf(
  histories: readonly FlowHistory[],
  period: Period,
  zone: string,
  now = period.to - 1,
): FlowFacts {
  const firstDay = dayNumber(period.from, zone);
  const days = dayNumber(period.to - 1, zone) - firstDay + 1;
  return {
    period,
    firstDay,
    days,
    departures: histories.flatMap((h) => departuresOf(h, period)).sort((a, b) => a.at - b.at),
    running: inProgressAt(histories, now).map(runningOf),
    times: stateSums(histories, period),
    steps: stepsOf(histories, period, zone, firstDay, days),
    inProgressMs: histories
      .flatMap(clockOf)
      .reduce((sum, c) => sum + overlap(c, period, period.to), 0),
  };
}

function departuresOf(history: FlowHistory, period: Period): FlowFacts["departures"][number][] {
  const { id: itemId, key, title, stays } = history;
  const clock = clockOf(history);
  let before = 0;
  return finishesOf(stays).flatMap(({ at, kind, outcome }) => {
    const elapsedMs = cutAt(clock, at).reduce((sum, { from, to }) => sum + to! - from, 0);
    const sinceLastMs = elapsedMs - before;
    before = elapsedMs;
    const finish = { itemId, key, title, at, kind, outcome, clock, elapsedMs, sinceLastMs };
    return at >= period.from && at < period.to ? [finish] : [];
  });
}

const runningOf = (history: FlowHistory): Running => {
  const { stateId, kind } = history.stays.at(-1)!;
  const blocked = history.blocks.some((b) => b.to === null);
  const { id: itemId, key, title } = history;
  return { itemId, key, title, stateId, kind, clock: clockOf(history), blocked };
};

function stateSums(histories: readonly FlowHistory[], period: Period): StateSum[] {
  const sums = new Map<string, StateSum & { seen: Set<string> }>();
  for (const { id, stays, blocks, readies = [] } of histories) {
    const first = finishesOf(stays).find((f) => f.kind === "delivered");
    if (!first || first.at < period.from || first.at >= period.to) continue;
    const blocked = mergeIntervals(blocks, Infinity);
    for (const stay of cutAt(stays, first.at)) {
      if (!isInProgress(stay.kind)) continue;
      const { stateId, kind, from, to } = stay;
      const sum = sums.get(stateId) ?? {
        stateId,
        kind,
        items: 0,
        spentMs: 0,
        blockedMs: 0,
        readyMs: 0,
        seen: new Set(),
      };
      sum.seen.add(id);
      sum.items = sum.seen.size;
      sum.spentMs += to! - from;
      sum.blockedMs += blocked.reduce((ms, b) => ms + overlap(stay, b, b.to), 0);
      sum.readyMs += readies.reduce((ms, r) => ms + overlap(stay, r, Infinity), 0);
      sums.set(stateId, sum);
    }
  }
  return [...sums.values()].map(({ seen: _, ...sum }) => sum);
}

function stepsOf(
  histories: readonly FlowHistory[],
  period: Period,
  zone: string,
  firstDay: number,
  days: number,
): StateStep[] {
  const changes = new Map<string, StateStep>();
  const add = (stateId: string, day: number, change: number) => {
    const key = `${stateId} ${day}`;
    const step = changes.get(key) ?? { stateId, day, change: 0 };
    step.change += change;
    changes.set(key, step);
  };
  for (const { stateId, from, to } of histories.flatMap((h) => h.stays)) {
    if (from >= period.to) continue;
    const enters = Math.max(0, dayNumber(from, zone) - firstDay);
    const leaves = to === null || to >= period.to ? days : dayNumber(to, zone) - firstDay;
    if (leaves <= enters) continue;
    add(stateId, enters, 1);
    if (leaves < days) add(stateId, leaves, -1);
  }
  return [...changes.values()].sort((a, b) =>
    a.stateId === b.stateId ? a.day - b.day : a.stateId < b.stateId ? -1 : 1,
  );
}

/** Every finish in a period with its times. */
export const departuresIn = (
  histories: readonly FlowHistory[],
  period: Period,
  zone: string,
): Finished[] => timed(factsOf(histories, period, zone).departures, zone);

/** The first deliveries among them. */
export const finishedIn = (
  histories: readonly FlowHistory[],
  period: Period,
  zone: string,
): Finished[] => delivered(departuresIn(histories, period, zone));
