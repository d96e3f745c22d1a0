import { signedIn } from "@/app/answer";
import { boardContract } from "@/core/board/contract";
import { editPersonLimit } from "@/server/board/edit-limits";

export const POST = signedIn(boardContract.personLimit, (viewer, { params, body }) =>
  editPersonLimit(viewer, params.key, body),
);
