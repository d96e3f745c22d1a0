import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { saveCase } from "@/server/ship/testing/cases";
import { readCases } from "@/server/ship/testing/read-cases";

export const GET = signedIn(testingContract.cases, (viewer, { params }) =>
  readCases(viewer, params.key),
);

export const POST = signedIn(testingContract.saveCase, (viewer, { params, body }) =>
  saveCase(viewer, params.key, body),
);
