import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readRelease } from "@/server/plan/releases";

export const GET = signedIn(planContract.release, (viewer, { params }) =>
  readRelease(viewer, params.key, params.release),
);
