import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { readElsewhere } from "@/server/item/change-project";

export const GET = signedIn(itemContract.elsewhere, (viewer, { params, query }) =>
  readElsewhere(viewer, params.key, query),
);
