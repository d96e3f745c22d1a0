import { signedIn } from "@/app/answer";
import { addingContract } from "@/core/item/adding/contract";
import { readAdding } from "@/server/item/adding";

export const POST = signedIn(addingContract.plan, (viewer, { params, body }) =>
  readAdding(viewer, params.key, body),
);
