import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { editWorkflows } from "@/server/workflow/remove-workflow";

export const POST = signedIn(workflowContract.editWorkflows, (viewer, { params, body }) =>
  editWorkflows(viewer, params.key, body),
);
