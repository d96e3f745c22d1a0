"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import { broken, type Standing } from "@/core/timeline/after";
import { movableParts } from "@/core/timeline/bars";
import { timelineRows } from "@/core/timeline/rows";
import { dayWidth, rangeOf } from "@/core/timeline/scale";
import type { Look } from "@/core/view/look";
import { useNarrow } from "@/ui/kit/use-narrow";
import type { TimelineHandle } from "./use-timeline";

export const ROW_HEIGHT = 34;
const NARROW_ROW = 27;
/** What stands beside the bars, and on a narrow screen. */
const NAMES_WIDTH = 300;
const NARROW_NAMES = 132;
/** What is said behind a bar has so much room. */
const WORDS_WIDTH = 130;
/** So many rows around those in sight are drawn too. */
const AROUND = 8;

/** What a timeline draws: its rows, which of them are in sight, and where each day is. */
export function useDrawn(look: Look, { view, forecast }: TimelineHandle) {
  const scroller = useRef<HTMLDivElement>(null);
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const [width, setWidth] = useState(1280);
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const watcher = new ResizeObserver(() => setWidth(element.clientWidth));
    watcher.observe(element);
    return () => watcher.disconnect();
  }, []);
  const { today } = view;
  const names = useNarrow() ? NARROW_NAMES : NAMES_WIDTH;
  const sprints = useMemo(() => new Map(view.sprints.map((one) => [one.id, one])), [view.sprints]);
  const { rows, undated, bars } = useMemo(
    () =>
      timelineRows(
        view,
        { today, sprints, until: forecast.until },
        { inGroups: look.group !== null, turned },
      ),
    [view, today, sprints, forecast.until, look.group, turned],
  );
  const standing = useMemo(
    () =>
      new Map(
        view.items.flatMap((item): [string, Standing][] => {
          const bar = bars.get(item.id);
          if (!bar) return [];
          const { id } = item;
          const moves = movableParts(item).includes("whole");
          return [[id, { id, from: bar.from, to: bar.to, moves, loose: bar.by === "sprint" }]];
        }),
      ),
    [view.items, bars],
  );
  const conflicts = useMemo(() => broken(standing, view.waits), [standing, view.waits]);
  const range = useMemo(
    () =>
      rangeOf(
        [...bars.values()].map(({ from, to, fade }) => ({ from, to: fade?.sure ?? to })),
        today,
      ),
    [bars, today],
  );
  const day = dayWidth(look.zoom, range, Math.max(200, width - names - WORDS_WIDTH));
  const height = look.dense ? NARROW_ROW : ROW_HEIGHT;
  // What it gives is used here alone and anew with each drawing.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: AROUND,
    initialRect: { width: 1200, height: 560 },
  });
  // Today stands in sight when it is opened, and when it is looked at from another distance.
  useEffect(() => {
    const element = scroller.current;
    if (!element || look.zoom === "fit") return;
    const ahead = (element.clientWidth - names) * 0.3;
    element.scrollLeft = Math.max(0, (today - range.first) * day - ahead);
    // Not when bars change: nothing jumps away under them.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [look.zoom, today, names]);
  return {
    scroller,
    rows,
    undated,
    standing,
    conflicts,
    range,
    day,
    height,
    names,
    drawn: virtual.getVirtualItems(),
    whole: virtual.getTotalSize(),
    /** Where a day begins, in pixels from the first one. */
    at: (of: number) => (of - range.first) * day,
    turn: (id: string) =>
      setTurned((now) => {
        const next = new Set(now);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
  };
}

export type Drawn = Omit<ReturnType<typeof useDrawn>, "scroller">;
