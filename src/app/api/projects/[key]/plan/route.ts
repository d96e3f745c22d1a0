import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { editTimebox } from "@/server/plan/timeboxes";

export const POST = signedIn(planContract.change, (viewer, { params, body }) =>
  editTimebox(viewer, params.key, body),
);
