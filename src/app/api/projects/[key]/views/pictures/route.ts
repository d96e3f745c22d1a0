import { signedIn } from "@/app/answer";
import { viewContract } from "@/core/view/contract";
import { readPictures } from "@/server/view/pictures";

export const POST = signedIn(viewContract.pictures, (viewer, { params, body }) =>
  readPictures(viewer, params.key, body),
);
