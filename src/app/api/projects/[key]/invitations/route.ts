import { signedIn } from "@/app/answer";
import { peopleContract } from "@/core/people/contract";
import { invite, readInvitations } from "@/server/people/invite";

export const GET = signedIn(peopleContract.invitations, (viewer, { params }) =>
  readInvitations(viewer, params.key),
);

export const POST = signedIn(peopleContract.invite, (viewer, { params, body }) =>
  invite(viewer, params.key, body),
);
