import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { editForm, readForms } from "@/server/intake/forms";

export const GET = signedIn(intakeContract.forms, (viewer, { params }) =>
  readForms(viewer, params.key),
);

export const POST = signedIn(intakeContract.changeForms, (viewer, { params, body }) =>
  editForm(viewer, params.key, body),
);
