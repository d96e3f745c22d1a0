import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { publishKnown } from "@/server/intake/known";

export const POST = signedIn(intakeContract.publishKnown, (viewer, { params, body }) =>
  publishKnown(viewer, params.id, body),
);
