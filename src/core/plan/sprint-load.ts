import type { PlanningView, PlanSprint } from "./planning-view";

/** How much is in a sprint, against what it can take. */
export interface SprintLoad {
  /** Open in it, seen or not. */
  items: number;
  /** Open and finished in it, in points. */
  points: number;
  /** Null where no sprint has ended yet. */
  room: number | null;
  /** So many points too much; 0 where it fits. */
  over: number;
}

/** How much is in a sprint of a plan, in points, with what was finished in it and what is not seen. */
export function sprintLoad(
  { planned }: Pick<PlanningView, "planned">,
  { id, room: asReckoned, donePoints, unseen }: PlanSprint,
): SprintLoad {
  const own = planned.filter(({ sprintId }) => sprintId === id);
  const open = own.reduce((sum, { estimate }) => sum + (estimate ?? 0), 0);
  const points = open + donePoints + unseen.points;
  const room = asReckoned === null ? null : Math.round(asReckoned);
  return {
    items: own.length + unseen.items,
    points,
    room,
    over: room === null ? 0 : Math.max(0, points - room),
  };
}
