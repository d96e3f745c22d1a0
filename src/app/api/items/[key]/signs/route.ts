import { signedIn } from "@/app/answer";
import { talkContract } from "@/core/talk/contract";
import { signComment } from "@/server/talk/change";

export const POST = signedIn(talkContract.sign, (viewer, { params, body }) =>
  signComment(viewer, params.key, body),
);
