import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { discardDraft, saveDraft } from "@/server/workflow/draft";

export const POST = signedIn(workflowContract.saveDraft, (viewer, { body }) =>
  saveDraft(viewer, body),
);

export const DELETE = signedIn(workflowContract.discardDraft, (viewer, { body }) =>
  discardDraft(viewer, body.workflowId, body.seenRevision),
);
