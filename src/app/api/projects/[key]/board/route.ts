import { signedIn } from "@/app/answer";
import { boardContract } from "@/core/board/contract";
import { readBoard } from "@/server/board/read";

export const GET = signedIn(boardContract.read, (viewer, { params, query }) =>
  readBoard(viewer, params.key, query.board, { sum: query.sum }),
);
