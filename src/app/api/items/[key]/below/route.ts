import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { readBelow } from "@/server/item/below";

export const GET = signedIn(itemContract.below, (viewer, { params }) =>
  readBelow(viewer, params.key),
);
