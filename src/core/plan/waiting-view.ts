import type { Day } from "@/core/calendar/month";
import type { StateKind } from "@/core/workflow/state";
import type { WaitsFor } from "./dependencies";

/** A sprint as a column of what waits for what. */
export interface WaitingSprint {
  id: string;
  name: string;
  startsOn: Day;
  endsOn: Day;
  running: boolean;
}

/** An open item that waits for something, or is waited for. */
export interface WaitingItem {
  id: string;
  /** Null where whoever looks may not see it: then nothing else is said of it either. */
  seen: {
    key: string;
    title: string;
    typeId: string;
    version: number;
    team: string | null;
    assignee: string | null;
    points: number | null;
  } | null;
  teamId: string | null;
  stateKind: StateKind;
  sprintId: string | null;
  /** The last day of its sprint, which may be another project's; null: it is in none. */
  until: Day | null;
  /** Whether it is of the project that is looked at. */
  own: boolean;
}

/** What waits for what in a project, and across its edge. */
export interface WaitingView {
  project: { key: string; name: string };
  /** Those that run or come. */
  sprints: WaitingSprint[];
  items: WaitingItem[];
  waits: WaitsFor[];
  /** What one without a size counts for. */
  defaultSize: number;
  rights: { plan: boolean };
}

/**
 * In which of some sprints an item stands, from 0: its own; where that is another project's, the
 * first that ends no earlier; what is begun and in none, the first. Null where it is in none of them
 * or later than all.
 */
export function placeAmong(
  sprints: readonly Pick<WaitingSprint, "id" | "endsOn">[],
  { sprintId, until, stateKind }: Pick<WaitingItem, "sprintId" | "until" | "stateKind">,
): number | null {
  const own = sprints.findIndex(({ id }) => id === sprintId);
  if (own >= 0) return own;
  if (until !== null) {
    const same = sprints.findIndex(({ endsOn }) => endsOn >= until);
    return same < 0 ? null : same;
  }
  return stateKind !== "unstarted" && sprints.length > 0 ? 0 : null;
}
