import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readPlanning } from "@/server/plan/planning";

export const GET = signedIn(planContract.planning, (viewer, { params }) =>
  readPlanning(viewer, params.key),
);
