import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readReleases } from "@/server/plan/releases";

export const GET = signedIn(planContract.releases, (viewer, { params }) =>
  readReleases(viewer, params.key),
);
