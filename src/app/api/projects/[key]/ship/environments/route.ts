import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { editEnvironments } from "@/server/ship/environments";

export const POST = signedIn(shipContract.environments, (viewer, { params, body }) =>
  editEnvironments(viewer, params.key, body),
);
