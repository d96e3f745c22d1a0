import { signedIn } from "@/app/answer";
import { readBytes } from "@/app/problem";
import { peopleContract } from "@/core/people/contract";
import { LARGEST_PICTURE } from "@/core/people/picture";
import { readPictures, removePicture, setPicture } from "@/server/people/pictures";

export const GET = signedIn(peopleContract.pictures, (viewer) => readPictures(viewer));

export const POST = signedIn(peopleContract.setPicture, async (viewer, _asked, request) =>
  setPicture(viewer, await readBytes(request, LARGEST_PICTURE)),
);

export const DELETE = signedIn(peopleContract.removePicture, (viewer) => removePicture(viewer));
