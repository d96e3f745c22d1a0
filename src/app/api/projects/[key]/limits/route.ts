import { signedIn } from "@/app/answer";
import { boardContract } from "@/core/board/contract";
import { editLimit } from "@/server/board/edit-limits";

export const POST = signedIn(boardContract.limit, (viewer, { params, body }) =>
  editLimit(viewer, params.key, body),
);
