import { signedIn } from "@/app/answer";
import { releaseContract } from "@/core/ship/release/contract";
import { tagRelease } from "@/server/ship/release/tags";

export const POST = signedIn(releaseContract.tag, (viewer, { params, body }) =>
  tagRelease(viewer, params, body),
);
