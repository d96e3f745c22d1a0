import { signedIn } from "@/app/answer";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { readItemAcceptance } from "@/server/ship/acceptance/read-acceptance";

export const GET = signedIn(acceptanceContract.ofItem, (viewer, { params }) =>
  readItemAcceptance(viewer, params.key),
);
