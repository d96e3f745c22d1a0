import { database } from "@/db/connection";
import {
  liveHub,
  liveSince,
  toldTo,
  type Announcement,
  type LiveMessage,
} from "@/server/board/live-hub";
import { enterGround, type Ground } from "@/server/across/ground";
import { viewerOf, type Viewer } from "@/server/people/viewer";

const HEARTBEAT_MS = 10_000;
/** So many may one person have open in one process; a browser's tabs are far fewer. */
const MOST_PER_PERSON = 20;
/**
 * A reader that takes nothing any more is let go, before what it should have read fills the memory.
 */
const MOST_UNREAD = 2_000;

interface Opened {
  personId: string;
  close: () => void;
}

/** Streams that are open in this process; ended when it stops, so that it can stop. */
function openStreams(): Set<Opened> {
  const shared = globalThis as typeof globalThis & { zigzagStreams?: Set<Opened> };
  shared.zigzagStreams ??= new Set();
  return shared.zigzagStreams;
}

/** Whether this person may open one more. */
export const mayOpenStream = (viewer: Viewer): boolean =>
  [...openStreams()].filter((s) => s.personId === viewer.personId).length < MOST_PER_PERSON;

/**
 * Server-sent events of a project, or of those of a place above them, for one reader, from a message on: changed cards as they change.
 * At every heartbeat it is asked again whether the session lasts and the project may be seen; the
 * stream ends when not.
 * @param from the last message that the reader knows; NaN for none
 */
export function liveStream(
  viewer: Viewer,
  ground: Ground,
  request: Request,
  from: number,
): ReadableStream<Uint8Array> {
  const ids = ground.projects.map(({ project }) => project.id);
  const encoder = new TextEncoder();
  let reader = viewer;
  let seesIntake = ground.may("read intake");
  let close = () => {};
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      let open = true;
      const write = (text: string) => {
        if (!open) return;
        if ((controller.desiredSize ?? 0) < -MOST_UNREAD) return close();
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          close();
        }
      };
      const send = (message: LiveMessage) => {
        if (message.kind === "intake" && !seesIntake) return;
        const id = "id" in message ? `id: ${message.id}\n` : "";
        write(`${id}data: ${JSON.stringify(message)}\n\n`);
      };
      // One after the other, so that what a reader may see is asked without changing the order.
      let last: Promise<void> = Promise.resolve();
      const announce = (announced: Announcement) => {
        last = last.then(async () => {
          const message = open ? await toldTo(reader, announced) : null;
          if (message) send(message);
        });
        last = last.catch(() => send({ kind: "resync" }));
      };
      const check = async () => {
        const now = await viewerOf(request.headers);
        if (now?.personId !== viewer.personId) return close();
        reader = now;
        try {
          const still = await enterGround(database(), now, ground.key, "read project");
          // What was taken from them ends here; what they were given comes with the next stream.
          if (ids.some((id) => !still.projects.some(({ project }) => project.id === id)))
            return close();
          seesIntake = still.may("read intake");
        } catch (error) {
          if ((error as { refusal?: unknown }).refusal) close();
        }
      };
      const leave = liveHub().subscribe(ids, viewer.personId, announce);
      const heartbeat = setInterval(() => {
        write(": still here\n\n");
        // While the database is away nobody is sent off.
        check().catch(() => {});
      }, HEARTBEAT_MS);
      const streams = openStreams();
      const opened: Opened = {
        personId: viewer.personId,
        close: () => {
          if (!open) return;
          open = false;
          clearInterval(heartbeat);
          leave();
          streams.delete(opened);
          try {
            controller.close();
          } catch {
            // The browser has closed it already.
          }
        },
      };
      close = opened.close;
      streams.add(opened);
      request.signal.addEventListener("abort", close);
      await liveHub().ready();
      write("retry: 1000\n\n");
      if (!Number.isSafeInteger(from) || from < 0) return;
      try {
        for (const announced of await liveSince(ids, from)) announce(announced);
      } catch {
        send({ kind: "resync" });
      }
    },
    cancel: () => close(),
  });
}
