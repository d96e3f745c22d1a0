import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readRoom } from "@/server/plan/people-room";

export const GET = signedIn(planContract.room, (viewer, { params }) =>
  readRoom(viewer, params.key),
);
