import { signedIn } from "@/app/answer";
import { boardContract } from "@/core/board/contract";
import { readFinished } from "@/server/board/finished";

export const GET = signedIn(boardContract.finished, (viewer, { params, query }) =>
  readFinished(viewer, params.key, query.board),
);
