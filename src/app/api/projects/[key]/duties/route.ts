import { signedIn } from "@/app/answer";
import { peopleContract } from "@/core/people/contract";
import { setDuties } from "@/server/people/duties";

export const POST = signedIn(peopleContract.setDuties, (viewer, { params, body }) =>
  setDuties(viewer, params.key, body),
);
