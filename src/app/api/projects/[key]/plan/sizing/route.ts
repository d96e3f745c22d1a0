import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { actOnSizing, readSizing } from "@/server/plan/sizing";

export const GET = signedIn(planContract.sizing, (viewer, { params }) =>
  readSizing(viewer, params.key),
);

export const POST = signedIn(planContract.size, (viewer, { params, body }) =>
  actOnSizing(viewer, params.key, body),
);
