import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { recordStep } from "@/server/ship/testing/runs";

export const POST = signedIn(testingContract.record, (viewer, { params, body }) =>
  recordStep(viewer, params, body),
);
