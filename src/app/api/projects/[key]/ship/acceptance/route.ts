import { signedIn } from "@/app/answer";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { readAcceptance } from "@/server/ship/acceptance/read-acceptance";
import { showWork } from "@/server/ship/acceptance/show";

export const GET = signedIn(acceptanceContract.page, (viewer, { params }) =>
  readAcceptance(viewer, params.key),
);

export const POST = signedIn(acceptanceContract.show, (viewer, { params, body }) =>
  showWork(viewer, params.key, body),
);
