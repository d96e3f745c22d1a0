import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { giveUpRun } from "@/server/ship/testing/runs";

export const POST = signedIn(testingContract.giveUp, (viewer, { params, body }) =>
  giveUpRun(viewer, params, body),
);
