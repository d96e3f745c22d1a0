import { json, signedInRoute } from "@/app/problem";
import { takeApart } from "@/server/intake/judge";

/** Takes a report off the item that it was merged into. */
export const POST = signedInRoute<{ id: string }>(async (viewer, _request, { id }) => {
  await takeApart(viewer, id);
  return json({ stored: true });
});
