import { signedIn } from "@/app/answer";
import { itemTableContract } from "@/core/item/csv/contract";
import { bringItems } from "@/server/item/csv/bring";
import { readTableGround } from "@/server/item/csv/ground";

export const GET = signedIn(itemTableContract.ground, (viewer, { params }) =>
  readTableGround(viewer, params.key),
);

export const POST = signedIn(itemTableContract.bring, (viewer, { params, body }) =>
  bringItems(viewer, params.key, body),
);
