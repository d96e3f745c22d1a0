import { signedIn } from "@/app/answer";
import { peopleContract } from "@/core/people/contract";
import { endPerson } from "@/server/people/end-person";
import { readHands } from "@/server/people/hand-on";

export const GET = signedIn(peopleContract.hands, (viewer, { params }) =>
  readHands(viewer, params.id),
);

export const POST = signedIn(peopleContract.endPerson, (viewer, { params, body }) =>
  endPerson(viewer, params.id, body),
);
