import type { DayNumber } from "@/core/calendar/instant";
import type { Until } from "@/core/plan/reach-view";
import type { TimelineItem, TimelineMark } from "./view";

/*
 * What of an item stands where on a timeline. Days are whole: a bar from the 3rd to the 5th is three
 * days wide. What was, is drawn as it was; what is planned, as it is planned; what is foretold fades.
 */

/** done: finished; worked: begun and not finished; blocked: kept from going on; planned: to come. */
export type SegmentKind = "done" | "worked" | "blocked" | "planned";

/** Both days belong to it. */
export interface Segment {
  kind: SegmentKind;
  from: DayNumber;
  to: DayNumber;
}

export interface Bar {
  from: DayNumber;
  to: DayNumber;
  segments: Segment[];
  /** Behind its end: full until it has an even chance to be finished, then fading until 85 %. */
  fade: { from: DayNumber; even: DayNumber; sure: DayNumber } | null;
  /** Where its days come from, where nobody has planned it: from its sprint, or from its children. */
  by: "itself" | "sprint" | "children";
}

export interface BarContext {
  today: DayNumber;
  sprints: ReadonlyMap<string, TimelineMark>;
  until: Readonly<Record<string, Until>>;
}

type Span = { from: DayNumber; to: DayNumber };

/** The bar of an item; null where nothing says when it is. */
export function barOf(item: TimelineItem, context: BarContext): Bar | null {
  const drawn =
    item.below && item.below.items > 0 ? largeBar(item, context) : ownBar(item, context);
  if (!drawn) return null;
  const { segments, by } = drawn;
  const from = segments[0].from;
  const to = segments.at(-1)!.to;
  return { from, to, segments, by, fade: fadeOf(item, to, context) };
}

interface Drawn {
  segments: Segment[];
  by: Bar["by"];
}

function ownBar(item: TimelineItem, { today, sprints }: BarContext): Drawn | null {
  const { startedOn, finishedOn, stateKind, blockedSince } = item;
  if (stateKind === "finished") {
    if (finishedOn === null) return null;
    const from = Math.min(startedOn ?? item.plannedFrom ?? finishedOn, finishedOn);
    return { segments: [{ kind: "done", from, to: finishedOn }], by: "itself" };
  }
  if (startedOn !== null && stateKind !== "unstarted") {
    const segments: Segment[] = [];
    const stuck = blockedSince !== null && blockedSince <= today ? blockedSince : null;
    if (stuck === null || stuck > startedOn)
      segments.push({ kind: "worked", from: startedOn, to: stuck === null ? today : stuck - 1 });
    if (stuck !== null)
      segments.push({ kind: "blocked", from: Math.max(stuck, startedOn), to: today });
    if (item.plannedTo !== null && item.plannedTo > today)
      segments.push({ kind: "planned", from: today + 1, to: item.plannedTo });
    return { segments, by: "itself" };
  }
  const planned = plannedSpan(item);
  if (planned) return { segments: [{ kind: "planned", ...planned }], by: "itself" };
  const sprint = item.sprintId === null ? undefined : sprints.get(item.sprintId);
  if (!sprint || sprint.to < today) return null;
  return { segments: [{ kind: "planned", from: sprint.from, to: sprint.to }], by: "sprint" };
}

/** From when to when an item is planned: where only one day is said, that day alone. */
export function plannedSpan({
  plannedFrom,
  plannedTo,
}: Pick<TimelineItem, "plannedFrom" | "plannedTo">): Span | null {
  if (plannedFrom === null && plannedTo === null) return null;
  return { from: (plannedFrom ?? plannedTo)!, to: (plannedTo ?? plannedFrom)! };
}

/** A large piece follows what is under it, unless somebody planned it; as much as is done is full. */
function largeBar(item: TimelineItem, context: BarContext): Drawn | null {
  const below = item.below!;
  const planned = plannedSpan(item);
  const span =
    planned ??
    (below.from === null || below.to === null ? null : { from: below.from, to: below.to });
  if (!span) return ownBar({ ...item, below: null }, context);
  const by = planned ? "itself" : "children";
  if (item.stateKind === "finished" || below.done === below.items)
    return { segments: [{ kind: "done", ...span }], by };
  const days = span.to - span.from + 1;
  const done = Math.min(Math.floor((days * below.done) / below.items), days - 1);
  const rest: SegmentKind = below.begun ? "worked" : "planned";
  return {
    segments: [
      ...(done > 0 ? [{ kind: "done" as const, from: span.from, to: span.from + done - 1 }] : []),
      { kind: rest, from: span.from + done, to: span.to },
    ],
    by,
  };
}

function fadeOf(item: TimelineItem, to: DayNumber, { today, until }: BarContext): Bar["fade"] {
  if (item.stateKind === "finished") return null;
  const told = until[item.id];
  if (!told || told.sure === null) return null;
  const sure = today + told.sure;
  if (sure <= to) return null;
  const even = Math.min(Math.max(today + (told.even ?? told.sure), to), sure);
  return { from: to + 1, even, sure };
}

/** How a bar is changed by hand. */
export type BarPart = "whole" | "begin" | "end";

/**
 * Which parts of its bar somebody may move: what was begun keeps the day on which it was, and what
 * has finished keeps both.
 */
export function movableParts(item: TimelineItem): readonly BarPart[] {
  if (!item.mayEdit || item.stateKind === "finished") return [];
  const large = item.below !== null && item.below.items > 0;
  return item.startedOn !== null && item.stateKind !== "unstarted" && !large
    ? ["end"]
    : ["whole", "begin", "end"];
}

/** What is planned of an item, as it is stored. */
export interface Planned {
  plannedFrom: DayNumber | null;
  plannedTo: DayNumber | null;
}

/**
 * What is planned of an item once a part of its bar is moved by some days: it keeps a day at least.
 * Of what was begun only the last day changes, and it is not before today.
 */
export function movedBy(
  item: TimelineItem,
  bar: Pick<Bar, "from" | "to">,
  { part, days, today }: { part: BarPart; days: number; today: DayNumber },
): Planned {
  if (!movableParts(item).includes("whole"))
    return { plannedFrom: item.plannedFrom, plannedTo: Math.max(today, bar.to + days) };
  if (part === "whole") return { plannedFrom: bar.from + days, plannedTo: bar.to + days };
  if (part === "begin")
    return { plannedFrom: Math.min(bar.from + days, bar.to), plannedTo: bar.to };
  return { plannedFrom: bar.from, plannedTo: Math.max(bar.to + days, bar.from) };
}
