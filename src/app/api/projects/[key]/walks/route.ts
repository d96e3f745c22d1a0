import { signedIn } from "@/app/answer";
import { walkContract } from "@/core/walk/contract";
import { changeWalk } from "@/server/walk/change";
import { readWalks } from "@/server/walk/read";

export const GET = signedIn(walkContract.read, (viewer, { params, query }) =>
  readWalks(viewer, params.key, query.board),
);

export const POST = signedIn(walkContract.change, (viewer, { params, body }) =>
  changeWalk(viewer, params.key, body),
);
