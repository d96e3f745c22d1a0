import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { readFreePlaces } from "@/server/item/terms/free-places";

export const GET = signedIn(itemContract.freePlaces, (viewer, { params }) =>
  readFreePlaces(viewer, params.key),
);
