import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { readDesign } from "@/server/workflow/read";

export const GET = signedIn(workflowContract.design, (viewer, { params }) =>
  readDesign(viewer, params.key),
);
