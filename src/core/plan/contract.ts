import { contract, DONE } from "@/core/contract/contract";
import { timeboxBody } from "./request";

export const planContract = {
  /** Makes, changes or takes out a sprint or a release. */
  change: contract({
    method: "POST",
    path: "/api/projects/:key/plan",
    body: timeboxBody,
    answer: DONE,
  }),
};
