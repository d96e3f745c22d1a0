import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { BacklogRows, BacklogView } from "./backlog-view";
import { TIMEBOXES } from "./membership";
import { timeboxBody } from "./request";

export const planContract = {
  /** What is around the backlog of a project: how much is in it, and its sprints and releases. */
  backlog: contract({
    method: "GET",
    path: "/api/projects/:key/backlog",
    answer: answered<BacklogView>(),
    kept: "backlog",
  }),
  /** A page of its rows, from a place in it or from the top. */
  rows: contract({
    method: "GET",
    path: "/api/projects/:key/backlog/rows",
    query: z.object({ after: z.string().max(2_000).optional() }),
    answer: answered<BacklogRows>(),
    kept: "backlog rows",
  }),
  /** The open items of a sprint or release, by their ids. */
  inside: contract({
    method: "GET",
    path: "/api/projects/:key/plan/inside",
    query: z.object({ timebox: z.enum(TIMEBOXES), id: z.string().max(64) }),
    answer: answered<{ ids: string[] }>(),
  }),
  /** Makes, changes or takes out a sprint or a release. */
  change: contract({
    method: "POST",
    path: "/api/projects/:key/plan",
    body: timeboxBody,
    answer: DONE,
  }),
};
