import { signedIn } from "@/app/answer";
import { testingContract } from "@/core/ship/testing/contract";
import { linkCase } from "@/server/ship/testing/cases";
import { readItemTests } from "@/server/ship/testing/item-tests";

export const GET = signedIn(testingContract.ofItem, (viewer, { params }) =>
  readItemTests(viewer, params.key),
);

export const POST = signedIn(testingContract.link, (viewer, { params, body }) =>
  linkCase(viewer, params.key, body),
);
