import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { copyItem } from "@/server/item/copy";

export const POST = signedIn(itemContract.copy, (viewer, { params, body }) =>
  copyItem(viewer, params.key, body),
);
