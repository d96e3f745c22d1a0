import type { Instant } from "@/core/calendar/instant";
import type { LoadNow } from "@/core/board/load";
import type { BrokenLimit } from "./broken-limit";
import type { Pulse } from "./pulse";
import type { Paces } from "./pace";

/**
 * The pulse strip's figures, and what the board draws from finished items: percentiles and the
 * ladder. They count every item.
 */
export interface FlowSummary {
  pulse: Pulse;
  paces: Paces;
  ladder: Record<string, number | null>;
  limitsBroken: BrokenLimit[];
  /** What each person of the project has in their hands, by their id. */
  loads: Record<string, LoadNow>;
  now: Instant;
}

/** The figures that boards and tables are drawn with. */
export type Figures = Pick<FlowSummary, "paces" | "ladder">;

/** What the frame of every page of a project shows. */
export interface ProjectSummary extends FlowSummary {
  /** Reports that wait for a verdict, for those who may give one. */
  unjudged: number;
  /** Whether this person sees every item that the figures count. */
  seesAll: boolean;
}
