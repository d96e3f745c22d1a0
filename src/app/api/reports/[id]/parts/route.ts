import { signedIn } from "@/app/answer";
import { reportContract } from "@/core/intake/contract";
import { sayParts } from "@/server/intake/say-parts";

export const POST = signedIn(reportContract.sayParts, (viewer, { params, body }) =>
  sayParts(viewer, params.id, body),
);
