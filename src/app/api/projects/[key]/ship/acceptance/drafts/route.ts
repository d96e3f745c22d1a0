import { signedIn } from "@/app/answer";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { readDrafts } from "@/server/ship/acceptance/drafts";

export const GET = signedIn(acceptanceContract.drafts, (viewer, { params, query }) =>
  readDrafts(viewer, params.key, query),
);
