import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { publishDraft } from "@/server/workflow/publish";

export const POST = signedIn(workflowContract.publish, (viewer, { body }) =>
  publishDraft(viewer, body),
);
