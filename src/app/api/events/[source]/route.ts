import { json, openRoute, problem, readBytes } from "@/app/problem";
import { readCloudEvents, UnsignedEvent } from "@/core/formats/cloud-event";
import { enterSource, takeEvents } from "@/server/events/take";

const LARGEST = 1024 * 1024;

/** Takes signed CloudEvents of a project's sources: code host, pipeline, test runs. */
export const POST = openRoute<{ source: string }>(async (request, { source }) => {
  const body = (await readBytes(request, LARGEST)).toString("utf8");
  const header = (name: string) => request.headers.get(name) ?? "";
  const entered = await enterSource(
    source,
    {
      id: header("webhook-id"),
      timestamp: header("webhook-timestamp"),
      signature: header("webhook-signature"),
    },
    body,
    header("x-client-address") || undefined,
  );
  if (entered.kind === "too many")
    return problem(
      429,
      "Too many events at once.",
      "Send them a little later, or as a batch.",
      {},
      { "Retry-After": String(entered.retryAfter) },
    );
  if (entered.kind === "unknown")
    return problem(
      401,
      "This source is not known, or its signature is wrong or too old.",
      "Sign id, timestamp and body with the secret of the source.",
    );
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
      return problem(
        415,
        "An event is sent whole.",
        "Send it as application/cloudevents+json, or several as application/cloudevents-batch+json: the signature covers the body, and no header.",
        { code: "invalid" },
      );
    if (error instanceof SyntaxError)
      return problem(400, "This is no JSON.", "Check the text that was sent.", { code: "invalid" });
    throw error;
  }
});
