import { signedIn } from "@/app/answer";
import { viewContract } from "@/core/view/contract";
import { readViewUses } from "@/server/view/uses";

export const GET = signedIn(viewContract.uses, (viewer, { params }) =>
  readViewUses(viewer, params.key),
);
