import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { editType } from "@/server/workflow/types";

export const POST = signedIn(workflowContract.types, (viewer, { params, body }) =>
  editType(viewer, params.key, body),
);
