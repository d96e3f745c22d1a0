import { signedIn } from "@/app/answer";
import { intakeContract } from "@/core/intake/contract";
import { editAddress, readMailbox } from "@/server/mail/addresses";

export const GET = signedIn(intakeContract.mailbox, (viewer, { params }) =>
  readMailbox(viewer, params.key),
);

export const POST = signedIn(intakeContract.changeMailbox, (viewer, { params, body }) =>
  editAddress(viewer, params.key, body),
);
