import { signedIn } from "@/app/answer";
import { fileResponse } from "@/app/file-response";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { ownPicture } from "@/server/ship/acceptance/own-showing";

export const GET = signedIn(acceptanceContract.picture, async (viewer, { params }) =>
  fileResponse(await ownPicture(viewer, params, params.picture)),
);
