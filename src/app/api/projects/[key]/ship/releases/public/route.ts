import { signedIn } from "@/app/answer";
import { releaseContract } from "@/core/ship/release/contract";
import { publishReleases } from "@/server/ship/release/public-releases";

export const POST = signedIn(releaseContract.publish, (viewer, { params, body }) =>
  publishReleases(viewer, params.key, body),
);
