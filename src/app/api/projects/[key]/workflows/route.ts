import { json, readJson, signedInRoute } from "@/app/problem";
import { addWorkflow, newWorkflowBody } from "@/server/workflow/new-workflow";

/** A file of the largest size that is read, as JSON text. */
const LARGEST_FILE = 12 * 1024 * 1024;

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await addWorkflow(viewer, key, await readJson(request, newWorkflowBody, LARGEST_FILE)), 201),
);
