import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { askPipeline } from "@/server/ship/ask-pipeline";

export const POST = signedIn(shipContract.askPipeline, (viewer, { params, body }) =>
  askPipeline(viewer, params.key, body),
);
