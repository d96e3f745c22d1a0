import { signedIn } from "@/app/answer";
import { releaseContract } from "@/core/ship/release/contract";
import { readReleasePage } from "@/server/ship/release/read-release";

export const GET = signedIn(releaseContract.page, (viewer, { params, query }) =>
  readReleasePage(viewer, params.key, query.release),
);
