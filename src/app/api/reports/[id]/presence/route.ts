import { json, signedInRoute } from "@/app/problem";
import { openOnDesk } from "@/server/intake/presence";

/** Says that this person has the report open. */
export const POST = signedInRoute<{ id: string }>(async (viewer, _request, { id }) => {
  await openOnDesk(viewer, id);
  return json({ stored: true });
});
