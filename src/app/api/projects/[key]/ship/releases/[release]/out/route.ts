import { signedIn } from "@/app/answer";
import { releaseContract } from "@/core/ship/release/contract";
import { setOut } from "@/server/ship/release/change-release";

export const POST = signedIn(releaseContract.out, (viewer, { params, body }) =>
  setOut(viewer, params, body),
);
