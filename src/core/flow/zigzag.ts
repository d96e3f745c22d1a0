import {
  DAY,
  mergeIntervals,
  type Interval,
  type Days,
  type Instant,
} from "@/core/calendar/instant";
import type { Stay } from "@/core/item/snapshot";
import { isInProgress, type StateId, type StateKind } from "@/core/workflow/state";

/**
 * A stretch of an item's line: high while somebody works on it, low while it waits or is ready for
 * its next step, broken while it is blocked.
 */
export interface ZigzagSegment {
  stateId: StateId;
  kind: StateKind;
  level: "high" | "low" | "off";
  blocked: boolean;
  ready: boolean;
  from: Instant;
  to: Instant;
  days: Days;
}

export interface Zigzag {
  segments: ZigzagSegment[];
  /** When the item was sent back to an earlier stage, as far as it is in the drawing. */
  returns: Instant[];
  working: Days;
  waiting: Days;
  blocked: Days;
  efficiency: number | null;
}

/**
 * An item's history as its zigzag, from the first commitment to the finish or to now. Time spent
 * unstarted or finished between two commitments is a stretch of level "off"; what comes after the
 * last finish is left out.
 * @param sentBack when the item was moved backwards; its stays alone do not tell which way was back
 */
export function zigzag(
  history: {
    stays: readonly Stay[];
    blocks: readonly Interval[];
    /** When it was ready for its next step; never while it was blocked. */
    readies?: readonly Interval[];
  },
  now: Instant,
  sentBack: readonly Instant[] = [],
): Zigzag {
  const first = history.stays.findIndex((s) => isInProgress(s.kind));
  const lastActive = history.stays.findLastIndex((s) => isInProgress(s.kind));
  const pauses = [
    ...mergeIntervals(history.blocks, now).map((p) => ({ ...p, blocked: true })),
    ...mergeIntervals(history.readies ?? [], now).map((p) => ({ ...p, blocked: false })),
  ].sort((a, b) => a.from - b.from);
  const segments: ZigzagSegment[] = [];
  for (const stay of first < 0 ? [] : history.stays.slice(first, lastActive + 1)) {
    const end = stay.to ?? Math.max(now, stay.from);
    const level = stay.kind === "working" ? "high" : stay.kind === "waiting" ? "low" : "off";
    const piece = (from: Instant, to: Instant, during: Partial<ZigzagSegment> = {}) => {
      if (to > from)
        segments.push({
          stateId: stay.stateId,
          kind: stay.kind,
          level,
          blocked: false,
          ready: false,
          ...during,
          from,
          to,
          days: (to - from) / DAY,
        });
    };
    let from = stay.from;
    for (const pause of level === "off" ? [] : pauses) {
      if (pause.to <= from || pause.from >= end) continue;
      piece(from, pause.from);
      const [begins, ends] = [Math.max(from, pause.from), Math.min(end, pause.to)];
      piece(begins, ends, pause.blocked ? { blocked: true } : { level: "low", ready: true });
      from = ends;
    }
    piece(from, end);
  }
  const sum = (test: (s: ZigzagSegment) => boolean) =>
    segments.filter(test).reduce((total, s) => total + s.days, 0);
  const working = sum((s) => s.level === "high" && !s.blocked);
  const waiting = sum((s) => s.level === "low" && !s.blocked);
  const blocked = sum((s) => s.blocked);
  const total = working + waiting + blocked;
  const returns = sentBack.filter(
    (at) => segments.length > 0 && at >= segments[0].from && at <= segments.at(-1)!.to,
  );
  return {
    segments,
    returns,
    working,
    waiting,
    blocked,
    efficiency: total > 0 ? working / total : null,
  };
}
