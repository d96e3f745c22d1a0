import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readAlike } from "@/server/plan/alike-sized";

export const GET = signedIn(planContract.alike, (viewer, { params, query }) =>
  readAlike(viewer, params.key, query.item),
);
