import { signedInRoute } from "@/app/problem";
import { database } from "@/db/connection";
import { liveHub, liveSince, type LiveMessage } from "@/server/board/live-hub";
import { enterProject } from "@/server/people/access";

export const dynamic = "force-dynamic";

const HEARTBEAT_MS = 20_000;

/**
 * Server-sent events of a project: changed cards as they change. A page that was interrupted sends the last number it
 * saw and gets what it missed. Whether the person may still see the project is asked again at every heartbeat.
 */
export const GET = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  const access = await enterProject(database(), viewer, { key }, "read project");
  const seesIntake = access.may("read intake");
  const from = Number(request.headers.get("last-event-id") ?? new URL(request.url).searchParams.get("after") ?? "");
  const encoder = new TextEncoder();
  let close = () => {};
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const send = (message: LiveMessage) => {
        if (message.kind === "intake" && !seesIntake) return;
        const id = "id" in message ? `id: ${message.id}\n` : "";
        write(`${id}data: ${JSON.stringify(message)}\n\n`);
      };
      let open = true;
      const write = (text: string) => {
        if (!open) return;
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          close();
        }
      };
      const leave = liveHub().subscribe(access.project.id, send);
      const heartbeat = setInterval(() => {
        write(": still here\n\n");
        enterProject(database(), viewer, { key }, "read project").catch((error: { refusal?: unknown }) => error.refusal && close());
      }, HEARTBEAT_MS);
      const streams = openStreams();
      close = () => {
        if (!open) return;
        open = false;
        clearInterval(heartbeat);
        leave();
        streams.delete(close);
        try {
          controller.close();
        } catch {
          // The browser has closed it already.
        }
      };
      streams.add(close);
      request.signal.addEventListener("abort", close);
      await liveHub().ready();
      write("retry: 1000\n\n");
      if (Number.isSafeInteger(from) && from >= 0)
        try {
          for (const message of await liveSince(access.project.id, from)) send(message);
        } catch {
          send({ kind: "resync" });
        }
    },
    cancel: () => close(),
  });
  return new Response(stream, { headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform", "X-Accel-Buffering": "no" } });
});

/** Streams that are open in this process; ended when it stops, so that it can stop. */
function openStreams(): Set<() => void> {
  const shared = globalThis as typeof globalThis & { zigzagStreams?: Set<() => void> };
  shared.zigzagStreams ??= new Set();
  return shared.zigzagStreams;
}
