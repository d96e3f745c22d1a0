import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { readVersion } from "@/server/workflow/read";

export const GET = signedIn(workflowContract.version, (viewer, { params, query }) =>
  readVersion(viewer, params.key, query),
);
