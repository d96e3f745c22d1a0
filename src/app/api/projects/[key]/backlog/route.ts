import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readBacklog } from "@/server/plan/backlog";

export const GET = signedIn(planContract.backlog, (viewer, { params }) =>
  readBacklog(viewer, params.key),
);
