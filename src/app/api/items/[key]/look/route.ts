import { signedIn } from "@/app/answer";
import { talkContract } from "@/core/talk/contract";
import { lookAt } from "@/server/talk/change";

export const POST = signedIn(talkContract.look, (viewer, { params }) => lookAt(viewer, params.key));
