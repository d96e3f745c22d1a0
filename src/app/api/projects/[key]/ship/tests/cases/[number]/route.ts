import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { putAwayCase } from "@/server/ship/testing/cases";
import { readCase } from "@/server/ship/testing/read-cases";

export const GET = signedIn(testingContract.case, (viewer, { params }) =>
  readCase(viewer, params.key, params.number),
);

export const POST = signedIn(testingContract.putAwayCase, (viewer, { params, body }) =>
  putAwayCase(viewer, params, body),
);
