import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { searchItems } from "@/server/item/read";

export const GET = signedIn(itemContract.search, (viewer, { query }) =>
  searchItems(viewer, query.q),
);
