import { signedIn } from "@/app/answer";
import { viewContract } from "@/core/view/contract";
import { shortenLook } from "@/server/view/short-look";

export const POST = signedIn(viewContract.shorten, (viewer, { params, body }) =>
  shortenLook(viewer, params.key, body.search),
);
