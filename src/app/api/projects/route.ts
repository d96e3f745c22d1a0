import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { startProject } from "@/server/workflow/start-project";

export const POST = signedIn(workflowContract.startProject, (viewer, { body }) =>
  startProject(viewer, body),
);
