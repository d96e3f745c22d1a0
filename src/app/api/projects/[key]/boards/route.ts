import { signedIn } from "@/app/answer";
import { boardContract } from "@/core/board/contract";
import { editBoards } from "@/server/board/boards";

export const POST = signedIn(boardContract.change, (viewer, { params, body }) =>
  editBoards(viewer, params.key, body),
);
