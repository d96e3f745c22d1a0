import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { saveSuite } from "@/server/ship/testing/cases";

export const POST = signedIn(testingContract.suite, (viewer, { params, body }) =>
  saveSuite(viewer, params.key, body),
);
