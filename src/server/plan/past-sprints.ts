import { sprintBounds, type PlannedSprint } from "@/core/plan/sprint";
import { sprintOutcome, type ItemOverTime } from "@/core/plan/sprint-ledger";
import type { PastSprint } from "@/core/plan/sprint-view";

/** What a sprint that has ended came to. */
export function pastSprint(
  of: PlannedSprint,
  zone: string,
  items: readonly ItemOverTime[],
): PastSprint {
  const bounds = sprintBounds({ ...of, zone }, of.endedAt ?? 0);
  const { committedPoints, velocity } = bounds
    ? sprintOutcome(items, bounds)
    : { committedPoints: 0, velocity: 0 };
  return { id: of.id, name: of.name, committed: committedPoints, velocity };
}
