import { json, readJson, signedInRoute } from "@/app/problem";
import { discardDraft, saveDraft } from "@/server/workflow/draft";
import { discardBody, draftBody } from "@/server/workflow/request";

export const POST = signedInRoute(async (viewer, request) =>
  json(await saveDraft(viewer, await readJson(request, draftBody, LARGEST_DRAFT))),
);

export const DELETE = signedInRoute(async (viewer, request) => {
  const { workflowId, seenRevision } = await readJson(request, discardBody);
  await discardDraft(viewer, workflowId, seenRevision);
  return json({ discarded: true });
});

/** A workflow of the largest size that is allowed, with conditions and agreements. */
const LARGEST_DRAFT = 2 * 1024 * 1024;
