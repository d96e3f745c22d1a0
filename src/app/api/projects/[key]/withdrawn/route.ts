import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { readWithdrawn } from "@/server/item/withdrawn";

export const GET = signedIn(itemContract.withdrawn, (viewer, { params, query }) =>
  readWithdrawn(viewer, params.key, query.words),
);
