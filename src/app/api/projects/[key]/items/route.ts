import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { readBehind } from "@/server/item/list/behind";

export const POST = signedIn(itemContract.behind, (viewer, { params, body }) =>
  readBehind(viewer, params.key, body),
);
