import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { readItem } from "@/server/item/read";

export const GET = signedIn(itemContract.read, (viewer, { params }) =>
  readItem(viewer, params.key),
);
