import { json, openRoute, problem, readBytes } from "@/app/problem";
import { readCloudEvents, UnsignedEvent } from "@/core/formats/cloud-event";
import { enterSource, takeEvents } from "@/server/events/take";

const LARGEST = 1024 * 1024;

/** Takes signed CloudEvents of a project's sources: code host, pipeline, test runs. */
export const POST = openRoute<{ source: string }>(async (request, { source }) => {
  const body = (await readBytes(request, LARGEST)).toString("utf8");
  const header = (name: string) => request.headers.get(name) ?? "";
  const entered = await enterSource({
    sourceId: source,
    headers: {
      id: header("webhook-id"),
      timestamp: header("webhook-timestamp"),
      signature: header("webhook-signature"),
    },
    body,
    address: header("x-client-address") || undefined,
  });
  if (entered.kind === "too many")
    return problem({
      status: 429,
      title: "Too many events at once.",
      detail: "Send them a little later, or as a batch.",
      more: {},
      headers: { "Retry-After": String(entered.retryAfter) },
    });
  if (entered.kind === "unknown")
    return problem({
      status: 401,
      title: "This source is not known, or its signature is wrong or too old.",
      detail: "Sign id, timestamp and body with the secret of the source.",
    });
  try {
    return json(
      await takeEvents(
        entered,
        readCloudEvents(header("content-type"), body.replaceAll("\u0000", "")),
      ),
      202,
    );
  } catch (error) {
    if (error instanceof UnsignedEvent)
      return problem({
        status: 415,
        title: "An event is sent whole.",
        detail:
          "Send it as application/cloudevents+json, or several as application/cloudevents-batch+json: the signature covers the body, and no header.",
        more: { code: "invalid" },
      });
    if (error instanceof SyntaxError)
      return problem({
        status: 400,
        title: "This is no JSON.",
        detail: "Check the text that was sent.",
        more: { code: "invalid" },
      });
    throw error;
  }
});
