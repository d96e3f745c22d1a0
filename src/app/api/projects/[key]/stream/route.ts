import { liveStream, mayOpenStream } from "@/app/live-stream";
import { signedIn } from "@/app/answer";
import { streamContract } from "@/core/item/contract";
import { problem } from "@/app/problem";
import { database } from "@/db/connection";
import { enterGround } from "@/server/across/ground";

export const dynamic = "force-dynamic";

/**
 * What happens in a project, as it happens. A page that was interrupted sends the last number it
 * saw and gets what it missed.
 */
export const GET = signedIn(streamContract, async (viewer, { params, query }, request) => {
  const ground = await enterGround(database(), viewer, params.key, "read project");
  if (!mayOpenStream(viewer))
    return problem({
      status: 429,
      title: "You have many pages of the product open.",
      detail: "Close some; this one shows changes when it is reloaded.",
      more: { code: "too many" },
      headers: { "Retry-After": "30" },
    });
  const heard = request.headers.get("last-event-id");
  const from = heard ? Number(heard) : (query.after ?? NaN);
  return new Response(liveStream(viewer, ground, request, from), {
    headers: {
      "Content-Type": "text/event-stream",
      "Cache-Control": "no-store, no-transform",
      "X-Accel-Buffering": "no",
    },
  });
});
