import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { readPart } from "@/server/item/terms/part";

export const GET = signedIn(itemContract.part, (viewer, { params, query }) =>
  readPart(viewer, params.key, query.name),
);
