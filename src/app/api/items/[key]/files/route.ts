import { signedIn } from "@/app/answer";
import { readBytes } from "@/app/problem";
import { itemContract } from "@/core/item/contract";
import { LARGEST_ITEM_FILE } from "@/core/item/item-file";
import { addItemFile } from "@/server/item/files";

export const POST = signedIn(itemContract.putFile, async (viewer, { params, query }, request) => {
  const content = await readBytes(request, LARGEST_ITEM_FILE);
  return addItemFile(viewer, params.key, { ...query, content });
});
