import { signedIn } from "@/app/answer";
import { viewContract } from "@/core/view/contract";
import { editViews } from "@/server/view/edit";
import { readViews } from "@/server/view/read";

export const GET = signedIn(viewContract.read, (viewer, { params }) =>
  readViews(viewer, params.key),
);

export const POST = signedIn(viewContract.change, (viewer, { params, body }) =>
  editViews(viewer, params.key, body),
);
