import { liveStream, mayOpenStream } from "@/app/live-stream";
import { problem, signedInRoute } from "@/app/problem";
import { database } from "@/db/connection";
import { enterProject } from "@/server/people/access";

export const dynamic = "force-dynamic";

/**
 * What happens in a project, as it happens. A page that was interrupted sends the last number it
 * saw and gets what it missed.
 */
export const GET = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  const access = await enterProject(database(), viewer, { key }, "read project");
  if (!mayOpenStream(viewer))
    return problem(
      429,
      "You have many pages of the product open.",
      "Close some; this one shows changes when it is reloaded.",
      { code: "too many" },
      { "Retry-After": "30" },
    );
  const from =
    request.headers.get("last-event-id") || new URL(request.url).searchParams.get("after");
  return new Response(liveStream(viewer, access, request, from ? Number(from) : NaN), {
    headers: {
      "Content-Type": "text/event-stream",
      "Cache-Control": "no-store, no-transform",
      "X-Accel-Buffering": "no",
    },
  });
});
