import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { readRun } from "@/server/ship/testing/read-run";

export const GET = signedIn(testingContract.run, (viewer, { params }) =>
  readRun(viewer, params.key, params.number),
);
