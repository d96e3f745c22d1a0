import { signedIn } from "@/app/answer";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { stepShowing } from "@/server/ship/acceptance/change";

export const POST = signedIn(acceptanceContract.step, (viewer, { params, body }) =>
  stepShowing(viewer, params, body),
);
