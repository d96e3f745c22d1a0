import { NO_LIMIT, type ColumnLimit } from "@/core/board/limit";
import type { LimitCounting } from "@/core/board/limit-counting";
import type { LimitedField } from "@/core/board/limited";
import type { Workflow } from "@/core/workflow/workflow";
import type { DemoProject } from "./projects";

type DemoLimit = ColumnLimit &
  Partial<LimitCounting> & { of: { field: LimitedField; value: string } | null };

/** How long items are expected to stay where they wait, and from when on that is too long, in days. */
const STAYS: Record<string, { expectedDays: number; tooOldDays: number }> = {
  "Waiting for review": { expectedDays: 2, tooOldDays: 5 },
  "Waiting for test": { expectedDays: 2, tooOldDays: 5 },
  "Ready to deploy": { expectedDays: 3, tooOldDays: 6 },
};

export const withExpectedStays = (workflow: Workflow): Workflow => ({
  ...workflow,
  states: workflow.states.map((state) => ({ ...state, ...STAYS[state.name] })),
});

/** The limits over all that the ticket app has in progress: its size, and the expedite allowance. */
export const demoBoardLimits = (key: DemoProject["key"]): DemoLimit[] =>
  key !== "TIX"
    ? []
    : [
        { ...NO_LIMIT, of: null, max: 90, unit: "size" },
        {
          ...NO_LIMIT,
          of: { field: "classOfService", value: "expedite" },
          max: 2,
        },
      ];

/** How much of one kind a column takes. */
export const demoCellLimits = (key: DemoProject["key"], state: string): DemoLimit[] =>
  key === "TIX" && state === "Building"
    ? [
        { ...NO_LIMIT, of: { field: "typeId", value: "bug" }, max: 2 },
        { ...NO_LIMIT, of: { field: "classOfService", value: "intangible" }, max: 1 },
      ]
    : [];

/** How much some people want in their hands at most, over all projects. */
export const DEMO_PERSON_LIMITS: Record<string, ColumnLimit & Partial<LimitCounting>> = {
  ruth: { ...NO_LIMIT, max: 4 },
  jonah: { ...NO_LIMIT, max: 3 },
  mei: { ...NO_LIMIT, max: 3, workedOnly: true },
  lukas: { ...NO_LIMIT, max: 5 },
};
