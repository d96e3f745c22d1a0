import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readPieceTree } from "@/server/plan/pieces";

export const GET = signedIn(planContract.pieces, (viewer, { params }) =>
  readPieceTree(viewer, params.key),
);
