import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { readSuspects } from "@/server/ship/testing/suspects";

export const GET = signedIn(testingContract.whose, (viewer, { params, query }) =>
  readSuspects(viewer, params.key, params.number, query),
);
