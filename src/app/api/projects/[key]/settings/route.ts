import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { editProject } from "@/server/workflow/edit-project";

export const POST = signedIn(workflowContract.editProject, (viewer, { params, body }) =>
  editProject(viewer, params.key, body),
);
