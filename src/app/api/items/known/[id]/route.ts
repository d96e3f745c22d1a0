import { json, readJson, signedInRoute } from "@/app/problem";
import { knownBody, publishKnown } from "@/server/intake/known";

/** Makes an item known to people outside, or takes it back. */
export const POST = signedInRoute<{ id: string }>(async (viewer, request, { id }) => {
  await publishKnown(viewer, id, await readJson(request, knownBody));
  return json({ stored: true });
});
