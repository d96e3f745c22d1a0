"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef, useState } from "react";
import type { GroupKey } from "@/core/item/list/group";
import type { TableRow } from "@/core/item/list/table";
import { tableLines, type TableLine } from "@/core/item/list/table-lines";
import type { LookHandle } from "@/ui/view/use-look";
import { partOf, useParts, type TableHandle } from "./use-table";

const ROOMY = 33;
const NARROW = 26;
const HEAD = 30;
/** So many lines around those in sight are drawn too. */
const AROUND = 12;

/** A line as it is drawn: which, where, and how high. */
export interface DrawnLine {
  index: number;
  top: number;
  height: number;
  line: TableLine;
}

/** The lines of a table: which groups are closed, what is in sight, and the rows that are there. */
export function useLines({ look, projectKey }: LookHandle, table: TableHandle) {
  const { view } = table;
  const scroller = useRef<HTMLDivElement>(null);
  const [closed, setClosed] = useState<ReadonlySet<GroupKey>>(new Set());
  const groups = useMemo(() => view.head?.groups ?? [], [view.head]);
  const grouped = table.body.group !== null;
  const lines = useMemo(
    () => tableLines(groups, grouped, (group) => closed.has(groups[group].key)),
    [groups, grouped, closed],
  );
  const height = look.dense ? NARROW : ROOMY;
  // What it gives is used here alone and anew with each drawing.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: lines.count,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: AROUND,
    scrollPaddingStart: HEAD,
    scrollPaddingEnd: HEAD,
    initialRect: { width: 1200, height: 560 },
  });
  const drawn = virtual.getVirtualItems().map(({ index, start, size }): DrawnLine => ({
    index,
    top: start,
    height: size,
    line: lines.at(index),
  }));
  const parts = drawn.flatMap(({ line }) => (line.kind === "row" ? [partOf(line.row)] : []));
  const rowAt = useParts(projectKey, table, [...new Set(parts)]);
  return {
    scroller,
    lines,
    groups,
    drawn,
    whole: virtual.getTotalSize(),
    rowAt,
    /** The item on a line; undefined on the head of a group, and while it is fetched. */
    rowOn: (line: number): TableRow | undefined => {
      const at = lines.at(line);
      return at.kind === "row" ? rowAt(at.row) : undefined;
    },
    isClosed: (group: number) => closed.has(groups[group].key),
    turnGroup: (group: number) =>
      setClosed((before) => {
        const next = new Set(before);
        const { key } = groups[group];
        if (!next.delete(key)) next.add(key);
        return next;
      }),
    screen: () => Math.max(1, Math.floor((scroller.current?.clientHeight ?? 0) / height) - 3),
    scrollTo: (line: number) => virtual.scrollToIndex(line),
  };
}

export type Lines = ReturnType<typeof useLines>;
