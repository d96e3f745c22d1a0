import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { editTerms } from "@/server/item/terms/edit";
import { readTerms } from "@/server/item/terms/read";

export const GET = signedIn(itemContract.terms, (viewer, { params }) =>
  readTerms(viewer, params.key),
);

export const POST = signedIn(itemContract.editTerms, async (viewer, { params, body }) => {
  await editTerms(viewer, params.key, body);
  return readTerms(viewer, params.key);
});
