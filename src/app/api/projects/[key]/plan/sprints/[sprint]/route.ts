import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { actOnSprint } from "@/server/plan/sprint-life";
import { readSprint } from "@/server/plan/sprint-view";

export const GET = signedIn(planContract.sprint, (viewer, { params }) =>
  readSprint(viewer, params.key, params.sprint),
);

export const POST = signedIn(planContract.actOnSprint, (viewer, { params, body }) =>
  actOnSprint(viewer, { projectKey: params.key, sprintId: params.sprint }, body),
);
