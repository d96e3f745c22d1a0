import { signedIn } from "@/app/answer";
import { releaseContract } from "@/core/ship/release/contract";
import { withdrawRelease } from "@/server/ship/release/withdraw";

export const POST = signedIn(releaseContract.withdraw, (viewer, { params, body }) =>
  withdrawRelease(viewer, params, body),
);
