import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { editWorth, readWorth } from "@/server/intake/worth";

export const GET = signedIn(intakeContract.worth, (viewer, { params }) =>
  readWorth(viewer, params.key),
);

export const POST = signedIn(intakeContract.changeWorth, (viewer, { params, body }) =>
  editWorth(viewer, params.key, body),
);
