import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { openInside } from "@/server/plan/timebox-totals";

export const GET = signedIn(planContract.inside, (viewer, { params, query }) =>
  openInside(viewer, params.key, query),
);
