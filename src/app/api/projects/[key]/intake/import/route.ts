import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { importReports } from "@/server/intake/import";

export const POST = signedIn(intakeContract.import, (viewer, { params, body }) =>
  importReports(viewer, params.key, body),
);
