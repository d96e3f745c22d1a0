import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { findReports } from "@/server/intake/found-reports";

export const GET = signedIn(intakeContract.find, (viewer, { params, query }) =>
  findReports(viewer, params.key, query),
);
