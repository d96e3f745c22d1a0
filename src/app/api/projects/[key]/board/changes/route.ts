import { signedIn } from "@/app/answer";
import { boardContract } from "@/core/board/contract";
import { readBoardChanges } from "@/server/board/changes";

export const POST = signedIn(boardContract.changes, (viewer, { params, body }) =>
  readBoardChanges(viewer, params.key, body),
);
