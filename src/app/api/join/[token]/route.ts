import { signedIn } from "@/app/answer";
import { peopleContract } from "@/core/people/contract";
import { joinAs } from "@/server/people/join";

export const POST = signedIn(peopleContract.join, (viewer, { params }) =>
  joinAs(viewer, params.token),
);
