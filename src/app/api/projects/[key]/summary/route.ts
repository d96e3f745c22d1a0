import { signedIn } from "@/app/answer";
import { flowContract } from "@/core/flow/contract";
import { readSummary } from "@/server/flow/summary";

export const GET = signedIn(flowContract.summary, (viewer, { params }) =>
  readSummary(viewer, params.key),
);
