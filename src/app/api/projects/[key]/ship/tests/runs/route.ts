import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { startRun } from "@/server/ship/testing/runs";

export const POST = signedIn(testingContract.start, (viewer, { params, body }) =>
  startRun(viewer, params.key, body),
);
