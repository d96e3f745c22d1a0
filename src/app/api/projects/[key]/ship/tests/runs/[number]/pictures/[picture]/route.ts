import { signedIn } from "@/app/answer";
import { fileResponse } from "@/app/file-response";
import { testingContract } from "@/core/ship/testing/contract";
import { removeTestPicture, testPictureFor } from "@/server/ship/testing/pictures";

export const GET = signedIn(testingContract.picture, async (viewer, { params }) =>
  fileResponse(await testPictureFor(viewer, params, params.picture)),
);

export const DELETE = signedIn(testingContract.removePicture, (viewer, { params }) =>
  removeTestPicture(viewer, params, params.picture),
);
