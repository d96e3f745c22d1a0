import { signedIn } from "@/app/answer";
import { talkContract } from "@/core/talk/contract";
import { emptyComment } from "@/server/talk/change";

export const POST = signedIn(talkContract.empty, (viewer, { params, body }) =>
  emptyComment(viewer, params.key, body),
);
