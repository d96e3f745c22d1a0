import { signedIn } from "@/app/answer";
import { listContract } from "@/core/item/list/contract";
import { readCardFacts } from "@/server/item/list/card-facts";

export const POST = signedIn(listContract.cards, (viewer, { params, body }) =>
  readCardFacts(viewer, params.key, body),
);
