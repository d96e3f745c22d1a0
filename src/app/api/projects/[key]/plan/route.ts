import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { editBox } from "@/server/plan/boxes";

export const POST = signedIn(planContract.change, (viewer, { params, body }) =>
  editBox(viewer, params.key, body),
);
