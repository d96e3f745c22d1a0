import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { emptyItemFile } from "@/server/item/empty-file";

export const POST = signedIn(itemContract.emptyFile, (viewer, { params, body }) =>
  emptyItemFile(viewer, params.key, { fileId: params.file, ...body }),
);
