import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readBacklogRows } from "@/server/plan/backlog-rows";

export const GET = signedIn(planContract.rows, (viewer, { params, query }) =>
  readBacklogRows(viewer, params.key, query),
);
