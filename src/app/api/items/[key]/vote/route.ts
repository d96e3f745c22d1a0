import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { castVote } from "@/server/item/votes";

export const POST = signedIn(itemContract.vote, (viewer, { params, body }) =>
  castVote(viewer, params.key, body.side),
);
