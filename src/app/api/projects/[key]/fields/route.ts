import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { editOwnField } from "@/server/item/own-fields";

export const POST = signedIn(itemContract.fields, (viewer, { params, body }) =>
  editOwnField(viewer, params.key, body),
);
