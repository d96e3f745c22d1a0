import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { sayWhyScope } from "@/server/plan/scope-reasons";

export const POST = signedIn(planContract.sayWhy, (viewer, { params, body }) =>
  sayWhyScope(viewer, { projectKey: params.key, sprintId: params.sprint }, body),
);
