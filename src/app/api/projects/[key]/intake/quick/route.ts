import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { quickReport } from "@/server/intake/import";

export const POST = signedIn(intakeContract.quick, (viewer, { params, body }) =>
  quickReport(viewer, params.key, body),
);
