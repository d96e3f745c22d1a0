import { signedIn } from "@/app/answer";
import { listContract } from "@/core/item/list/contract";
import { readLanes } from "@/server/item/list/lanes";

export const POST = signedIn(listContract.lanes, (viewer, { params, body }) =>
  readLanes(viewer, params.key, body),
);
