import { signedIn } from "@/app/answer";
import { fileResponse } from "@/app/file-response";
import { peopleContract } from "@/core/people/contract";
import { pictureOf } from "@/server/people/pictures";

export const GET = signedIn(peopleContract.picture, async (viewer, { params }) =>
  fileResponse(await pictureOf(viewer, params.id)),
);
