import { z } from "zod";
import { sizeScaleSchema, type SizeScale } from "./size-scale";
import { LONGEST_SPRINT } from "./sprint";

/** How a project plans. */
export interface PlanSettings {
  /** Whether in sprints; those that it has stay as they are where it does not. */
  usesSprints: boolean;
  /** How long they usually are, in days. */
  sprintDays: number;
  /** Whether every new item goes into the one that runs. */
  newIntoSprint: boolean;
  /** The sizes that its items are given. */
  sizeScale: SizeScale;
}

export const planSettingsBody = z
  .object({
    usesSprints: z.boolean(),
    sprintDays: z
      .number()
      .int()
      .min(1, "A sprint has one day at least.")
      .max(LONGEST_SPRINT, "A sprint lasts fourteen weeks at most."),
    newIntoSprint: z.boolean(),
    sizeScale: sizeScaleSchema,
  })
  .partial();

/** "two weeks" as a project says it. @example lengthWords(14) === "2 weeks" */
export const lengthWords = (days: number): string => {
  const [n, unit] = days % 7 === 0 ? [days / 7, "week"] : [days, "day"];
  return `${n} ${unit}${n === 1 ? "" : "s"}`;
};
