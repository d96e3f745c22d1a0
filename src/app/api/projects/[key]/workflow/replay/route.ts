import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { replayDraft } from "@/server/workflow/replay";

export const GET = signedIn(workflowContract.replay, (viewer, { params, query }) =>
  replayDraft(viewer, params.key, query),
);
