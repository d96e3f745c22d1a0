import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readPiece } from "@/server/plan/pieces";

export const GET = signedIn(planContract.piece, (viewer, { params }) =>
  readPiece(viewer, params.key, params.piece),
);
