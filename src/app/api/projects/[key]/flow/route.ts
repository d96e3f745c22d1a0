import { signedIn } from "@/app/answer";
import { flowContract } from "@/core/flow/contract";
import { readLearn } from "@/server/flow/read";

export const GET = signedIn(flowContract.learn, (viewer, { params, query }) =>
  readLearn(viewer, params.key, query),
);
