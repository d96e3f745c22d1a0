import { signedIn } from "@/app/answer";
import { reportContract } from "@/core/intake/contract";
import { takeApart } from "@/server/intake/triage-report";

export const POST = signedIn(reportContract.takeApart, (viewer, { params }) =>
  takeApart(viewer, params.id),
);
