import { signedIn } from "@/app/answer";
import { listContract } from "@/core/item/list/contract";
import { readMatching } from "@/server/item/list/matching";

export const POST = signedIn(listContract.matching, (viewer, { params, body }) =>
  readMatching(viewer, params.key, body),
);
