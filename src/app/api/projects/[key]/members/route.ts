import { signedIn } from "@/app/answer";
import { peopleContract } from "@/core/people/contract";
import { readMembers, setMember } from "@/server/people/members";

export const GET = signedIn(peopleContract.members, (viewer, { params }) =>
  readMembers(viewer, params.key),
);

export const POST = signedIn(peopleContract.setMember, (viewer, { params, body }) =>
  setMember(viewer, params.key, body),
);
