import type { DayNumber } from "@/core/calendar/instant";
import type { GroupKey } from "@/core/item/list/group";
import type { WaitsFor } from "@/core/plan/dependencies";
import type { Until } from "@/core/plan/reach-view";
import type { StateKind } from "@/core/workflow/state";

/** What stands under a large piece, as far as whoever looks sees it: its stories and their days. */
export interface SpanBelow {
  /** The first day on which one of them was begun or is planned; null where none has one. */
  from: DayNumber | null;
  to: DayNumber | null;
  items: number;
  done: number;
  /** Whether one of them was begun. */
  begun: boolean;
}

/** An item on a timeline. Days are counted in the zone of its project. */
export interface TimelineItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
  /** Of its type: 0 is a task, 1 a story, from 2 on a large piece. */
  level: number;
  parentId: string | null;
  stateKind: StateKind;
  assigneeId: string | null;
  sprintId: string | null;
  releaseId: string | null;
  version: number;
  /** First begun. */
  startedOn: DayNumber | null;
  finishedOn: DayNumber | null;
  plannedFrom: DayNumber | null;
  plannedTo: DayNumber | null;
  /** A promise: a mark, and no end of a bar. */
  dueOn: DayNumber | null;
  fixedDate: boolean;
  blockedSince: DayNumber | null;
  group: GroupKey;
  /** Of a large piece. */
  below: SpanBelow | null;
  mayEdit: boolean;
}

/** A stretch of days with a name: a sprint, or the day of a release. */
export interface TimelineMark {
  id: string;
  name: string;
  from: DayNumber;
  to: DayNumber;
}

export interface TimelineView {
  today: DayNumber;
  /** By rank. */
  items: TimelineItem[];
  /** Groups in their order, where rows stand in groups. */
  groups: { key: GroupKey; label: string }[];
  /** Among the items: which waits for which. */
  waits: WaitsFor[];
  sprints: TimelineMark[];
  releases: TimelineMark[];
  /** How many the filter lets through that are not drawn: they finished long ago, or are too many. */
  left: { finished: number; more: number };
  /** How many there are in all that this person sees, whatever the filter. */
  of: number;
  mayEdit: boolean;
}

/** When items will probably be finished, in days from today, by their id. */
export interface TimelineForecast {
  today: DayNumber;
  until: Record<string, Until>;
  /** So many days half of what is delivered takes; null where too little was. */
  took: number | null;
}

/** So many items stand on a timeline at most. */
export const MOST_ON_TIMELINE = 2_000;
/** What finished longer ago than so many days is left out, where it is under no large piece. */
export const FINISHED_SHOWN = 42;
