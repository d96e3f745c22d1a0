import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { seeAgreed } from "@/server/item/agreed-seen";

export const POST = signedIn(itemContract.seeAgreed, (viewer, { params, body }) =>
  seeAgreed(viewer, params.key, body.seq),
);
