import { signedIn } from "@/app/answer";
import { listContract } from "@/core/item/list/contract";
import { readCounted } from "@/server/item/list/counted";

export const POST = signedIn(listContract.counted, (viewer, { params, body }) =>
  readCounted(viewer, params.key, body),
);
