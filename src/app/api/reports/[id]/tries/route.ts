import { signedIn } from "@/app/answer";
import { reportContract } from "@/core/intake/contract";
import { recordReproduction } from "@/server/intake/reproductions";

export const POST = signedIn(reportContract.tries, (viewer, { params, body }) =>
  recordReproduction(viewer, params.id, body),
);
