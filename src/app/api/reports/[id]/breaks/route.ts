import { signedIn } from "@/app/answer";
import { reportContract } from "@/core/intake/contract";
import { readBrokenPromise } from "@/server/intake/broken-promise";

export const GET = signedIn(reportContract.breaks, (viewer, { params, query }) =>
  readBrokenPromise(viewer, params.id, query),
);
