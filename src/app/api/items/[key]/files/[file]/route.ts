import { signedIn } from "@/app/answer";
import { fileResponse } from "@/app/file-response";
import { itemContract } from "@/core/item/contract";
import { itemFileFor } from "@/server/item/files";

export const GET = signedIn(itemContract.file, async (viewer, { params }) =>
  fileResponse(await itemFileFor(viewer, params.key, params.file)),
);
