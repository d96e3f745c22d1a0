import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { editSource, readSources } from "@/server/events/sources";

export const GET = signedIn(workflowContract.sources, (viewer, { params }) =>
  readSources(viewer, params.key),
);

export const POST = signedIn(workflowContract.changeSources, (viewer, { params, body }) =>
  editSource(viewer, params.key, body),
);
