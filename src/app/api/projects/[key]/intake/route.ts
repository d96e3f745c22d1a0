import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { readDesk } from "@/server/intake/desk";

export const GET = signedIn(intakeContract.desk, (viewer, { params }) =>
  readDesk(viewer, params.key),
);
