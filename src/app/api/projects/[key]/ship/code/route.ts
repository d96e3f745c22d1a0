import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { readProjectCode } from "@/server/ship/read-project-code";

export const GET = signedIn(shipContract.code, (viewer, { params }) =>
  readProjectCode(viewer, params.key),
);
