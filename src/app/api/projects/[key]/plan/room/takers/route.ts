import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readTakers } from "@/server/plan/takers";

export const GET = signedIn(planContract.takers, (viewer, { params, query }) =>
  readTakers(viewer, params.key, query.item),
);
