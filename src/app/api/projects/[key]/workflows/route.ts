import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { addWorkflow } from "@/server/workflow/new-workflow";

export const POST = signedIn(workflowContract.add, (viewer, { params, body }) =>
  addWorkflow(viewer, params.key, body),
);
