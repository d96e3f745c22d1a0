import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { readPromises } from "@/server/intake/promises";
import { editRules } from "@/server/intake/rules";

export const GET = signedIn(intakeContract.promises, (viewer, { params }) =>
  readPromises(viewer, params.key),
);

export const POST = signedIn(intakeContract.changeRules, (viewer, { params, body }) =>
  editRules(viewer, params.key, body),
);
