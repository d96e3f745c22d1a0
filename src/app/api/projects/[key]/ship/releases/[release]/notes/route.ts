import { signedIn } from "@/app/answer";
import { releaseContract } from "@/core/ship/release/contract";
import { writeNote } from "@/server/ship/release/change-release";

export const POST = signedIn(releaseContract.note, (viewer, { params, body }) =>
  writeNote(viewer, params, body),
);
