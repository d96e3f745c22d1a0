import { limited } from "@/app/page-limit";
import { json, openRoute, readJson } from "@/app/problem";
import { moveAsRequester, readPrivatePage } from "@/server/intake/private-page";
import { requesterMoveBody } from "@/server/intake/request";

/** A step that the process leaves to the requester. */
export const POST = openRoute<{ token: string }>(async (request, { token }) => {
  const refused = await limited(request);
  if (refused) return refused;
  await moveAsRequester(token, await readJson(request, requesterMoveBody));
  return json(await readPrivatePage(token));
});
