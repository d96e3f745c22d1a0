import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { itemsById } from "@/server/item/read";

export const POST = signedIn(itemContract.behind, (viewer, { params, body }) =>
  itemsById(viewer, params.key, body.ids),
);
