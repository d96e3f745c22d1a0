import { signedIn } from "@/app/answer";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { sayInside } from "@/server/ship/acceptance/own-showing";

export const POST = signedIn(acceptanceContract.say, (viewer, { params, body }) =>
  sayInside(viewer, params, body),
);
