import { signedIn } from "@/app/answer";
import { readBytes } from "@/app/problem";
import { LARGEST_ITEM_FILE } from "@/core/item/item-file";
import { testingContract } from "@/core/ship/testing/contract";
import { addTestPicture } from "@/server/ship/testing/pictures";

export const POST = signedIn(
  testingContract.putPicture,
  async (viewer, { params, query }, request) => {
    const content = await readBytes(request, LARGEST_ITEM_FILE);
    return addTestPicture(viewer, params, { ...query, content });
  },
);
