import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { readBranchName } from "@/server/ship/branch-name";

export const GET = signedIn(shipContract.branchName, (viewer, { params }) =>
  readBranchName(viewer, params.key),
);
