import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { visitDraft } from "@/server/workflow/visit";

export const POST = signedIn(workflowContract.visit, (viewer, { params, body }) =>
  visitDraft(viewer, params.key, body),
);
