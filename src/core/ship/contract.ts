import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import { deployAsk, wantedDeployment } from "./deploy-ask";
import { environmentsBody } from "./environment";
import type { ProjectCode } from "./open-work";
import type { ReviewQueue } from "./review-queue";
import { shipSettingsBody } from "./ship-settings";
import type { DeliveriesView, DeployForecast, WhatIsWhere } from "./what-is-where-view";

export const shipContract = {
  /** What a project has in its code hosts: changes, branches, and who commits. */
  code: contract({
    method: "GET",
    path: "/api/projects/:key/ship/code",
    answer: answered<ProjectCode>(),
    kept: "project code",
  }),
  /** What waits for a review, and who could read it. */
  reviews: contract({
    method: "GET",
    path: "/api/projects/:key/ship/reviews",
    answer: answered<ReviewQueue>(),
    kept: "reviews",
  }),
  /** Which items are on which environment. */
  whatIsWhere: contract({
    method: "GET",
    path: "/api/projects/:key/ship/where",
    answer: answered<WhatIsWhere>(),
    kept: "what is where",
  }),
  /** What went live lately, and the four figures of it. */
  deliveries: contract({
    method: "GET",
    path: "/api/projects/:key/ship/deliveries",
    answer: answered<{ deliveries: DeliveriesView | null }>(),
    kept: "deliveries",
  }),
  /** Says which environments there are. */
  environments: contract({
    method: "POST",
    path: "/api/projects/:key/ship/environments",
    body: environmentsBody,
    answer: DONE,
  }),
  /** What a deployment would change. */
  forecastDeployment: contract({
    method: "GET",
    path: "/api/projects/:key/ship/forecast",
    query: wantedDeployment,
    answer: answered<DeployForecast>(),
    kept: "deployment forecast",
  }),
  /** Asks the pipeline to deploy a build, or to roll back to one. */
  askPipeline: contract({
    method: "POST",
    path: "/api/projects/:key/ship/deploy",
    body: deployAsk,
    answer: answered<{ refused: string | null }>(),
  }),
  /** How its branches are named, by which words commits close, when a branch is old. */
  settings: contract({
    method: "POST",
    path: "/api/projects/:key/ship/settings",
    body: shipSettingsBody,
    answer: DONE,
  }),
  /** Says who commits under a mail address; nobody: it is not known any more. */
  author: contract({
    method: "POST",
    path: "/api/projects/:key/ship/author",
    body: z.object({
      mail: z.string().trim().toLowerCase().min(1).max(500),
      personId: z.string().min(1).max(64).nullable(),
    }),
    answer: DONE,
  }),
  /** Lets whoever asks into the code host or the pipeline that came with the product, at a page of it. */
  enterHost: contract({
    method: "GET",
    path: "/api/code-host",
    query: z.object({
      of: z.enum(["code", "pipeline"]).default("code"),
      to: z
        .string()
        .max(500)
        .regex(/^\/(?!\/)/, "This leads to no page of the code host.")
        .default("/"),
    }),
    answer: z.unknown(),
  }),
  /** The name that the next branch of an item has, for whoever asks. */
  branchName: contract({
    method: "GET",
    path: "/api/items/:key/branch-name",
    answer: answered<{ branchName: string }>(),
  }),
};
