import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { keepBacklogLook } from "@/server/plan/backlog-look";

export const POST = signedIn(planContract.keepLook, (viewer, { params, body }) =>
  keepBacklogLook(viewer, params.key, body),
);
