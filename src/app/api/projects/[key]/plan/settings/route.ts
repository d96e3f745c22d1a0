import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { editPlanSettings } from "@/server/plan/settings";

export const POST = signedIn(planContract.settings, (viewer, { params, body }) =>
  editPlanSettings(viewer, params.key, body),
);
