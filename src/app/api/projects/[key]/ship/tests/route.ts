import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { readTestQueue } from "@/server/ship/testing/test-queue";

export const GET = signedIn(testingContract.queue, (viewer, { params }) =>
  readTestQueue(viewer, params.key),
);
