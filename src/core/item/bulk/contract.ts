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

export const bulkContract = {
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
