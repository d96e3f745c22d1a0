import { signedIn } from "@/app/answer";
import { timelineContract } from "@/core/timeline/contract";
import { readTimeline } from "@/server/timeline/read";

export const POST = signedIn(timelineContract.read, (viewer, { params, body }) =>
  readTimeline(viewer, params.key, body),
);
