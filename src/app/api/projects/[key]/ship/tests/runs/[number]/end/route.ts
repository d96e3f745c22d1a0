import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { endRun } from "@/server/ship/testing/end-run";

export const POST = signedIn(testingContract.end, (viewer, { params, body }) =>
  endRun(viewer, params, body),
);
