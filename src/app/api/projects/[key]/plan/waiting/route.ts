import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readWaiting } from "@/server/plan/waiting";

export const GET = signedIn(planContract.waiting, (viewer, { params }) =>
  readWaiting(viewer, params.key),
);
