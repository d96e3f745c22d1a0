import { signedIn } from "@/app/answer";
import { bulkContract } from "@/core/item/bulk/contract";
import { pointOut } from "@/server/item/bulk/point-out";

export const POST = signedIn(bulkContract.pointOut, (viewer, { params, body }) =>
  pointOut(viewer, params.key, body),
);
