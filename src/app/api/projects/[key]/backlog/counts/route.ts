import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { countBacklog } from "@/server/plan/backlog-rows";

export const GET = signedIn(planContract.counts, (viewer, { params, query }) =>
  countBacklog(viewer, params.key, query),
);
