import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { readDesignHistory } from "@/server/workflow/design-history";

export const GET = signedIn(workflowContract.designHistory, (viewer, { params, query }) =>
  readDesignHistory(viewer, params.key, query.before),
);
