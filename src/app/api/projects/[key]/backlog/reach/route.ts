import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readReach } from "@/server/plan/reach";

export const GET = signedIn(planContract.reach, (viewer, { params, query }) =>
  readReach(viewer, params.key, query),
);
