import { signedIn } from "@/app/answer";
import { acrossContract } from "@/core/across/contract";
import { changeGroups } from "@/server/across/groups";
import { readPlaces } from "@/server/across/places";

export const GET = signedIn(acrossContract.read, (viewer) => readPlaces(viewer));

export const POST = signedIn(acrossContract.change, (viewer, { body }) =>
  changeGroups(viewer, body),
);
