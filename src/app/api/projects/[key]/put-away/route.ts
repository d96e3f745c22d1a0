import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { putProjectAway } from "@/server/workflow/put-away";

export const POST = signedIn(workflowContract.putProjectAway, (viewer, { params, body }) =>
  putProjectAway(viewer, params.key, body.away),
);
