import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";
import type { LearnView } from "./learn-view";
import { bandQuery, flowQuery } from "./request";
import type { ProjectSummary } from "./summary";

export const flowContract = {
  /** What the frame of every page of a project shows. */
  summary: contract({
    method: "GET",
    path: "/api/projects/:key/summary",
    answer: answered<ProjectSummary>(),
    kept: "summary",
  }),
  /** All flow measures of a period. */
  learn: contract({
    method: "GET",
    path: "/api/projects/:key/flow",
    query: flowQuery,
    answer: answered<LearnView>(),
    kept: "learn",
  }),
  /** The items behind a point of the cumulative flow diagram. */
  band: contract({
    method: "GET",
    path: "/api/projects/:key/flow/band",
    query: flowQuery.extend(bandQuery.shape),
    answer: z.object({ ids: z.array(z.string()) }),
  }),
};
