import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import { conditionSchema } from "@/core/condition/condition";
import { bulkAct } from "./act";
import type { BulkForecast, BulkJobs } from "./job";

/** So many items one job changes at most. */
export const MOST_IN_JOB = 5_000;

/** Which items: named ones, in their order, or all that a list shows. */
const bulkItems = z.union([
  z.object({ ids: z.array(z.uuid()).min(1).max(MOST_IN_JOB) }),
  z.object({ board: z.string().max(64).nullable(), condition: conditionSchema }),
]);
export type BulkItems = z.output<typeof bulkItems>;

export const forecastBody = z.object({ items: bulkItems, act: bulkAct });
export type ForecastAsked = z.output<typeof forecastBody>;

export const bulkBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("start"), id: z.uuid(), items: bulkItems, act: bulkAct }),
  z.object({ kind: z.literal("undo"), id: z.uuid(), of: z.uuid() }),
  z.object({ kind: z.literal("cancel"), id: z.uuid() }),
]);
export type BulkRequest = z.output<typeof bulkBody>;

/** So many people and teams are pointed at something at once. */
const MOST_TOLD = 30;
export const LONGEST_SENTENCE = 500;

/** Items that people are to look at, and why. */
export const pointOutBody = z.object({
  items: bulkItems,
  personIds: z.array(z.string().min(1).max(64)).max(MOST_TOLD),
  teamIds: z.array(z.string().min(1).max(64)).max(MOST_TOLD),
  sentence: z
    .string()
    .trim()
    .min(1, "Say in a sentence why they should look.")
    .max(LONGEST_SENTENCE, `Use at most ${LONGEST_SENTENCE} characters.`),
});
export type PointOutAsked = z.output<typeof pointOutBody>;

/** Who was told of how many of them. */
export interface PointedOut {
  told: { name: string; items: number }[];
  /** People who may see none of them. */
  untold: string[];
}

export const bulkContract = {
  /** Points items out to people and teams, in one alert each. */
  pointOut: contract({
    method: "POST",
    path: "/api/projects/:key/bulk/point-out",
    body: pointOutBody,
    answer: answered<PointedOut>(),
  }),
  /** What an act would do, asked of the first of the items; nothing is stored. */
  forecast: contract({
    method: "POST",
    path: "/api/projects/:key/bulk/forecast",
    body: forecastBody,
    answer: answered<BulkForecast>(),
    kept: "bulk forecast",
  }),
  /** Starts, cancels or takes back a job. */
  change: contract({
    method: "POST",
    path: "/api/projects/:key/bulk",
    body: bulkBody,
    answer: DONE,
  }),
  /** The latest jobs of whoever asks, with how far they are and what was left out. */
  jobs: contract({
    method: "GET",
    path: "/api/projects/:key/bulk",
    answer: answered<BulkJobs>(),
    kept: "bulk",
  }),
};
