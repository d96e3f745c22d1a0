import { z } from "zod";
import { saidTime } from "./said-time";

/** An event in the form of CloudEvents 1.0 (CNCF, JSON event format). */
export const cloudEventSchema = z.looseObject({
  specversion: z.literal("1.0"),
  id: z.string().min(1).max(200),
  source: z.string().min(1).max(500),
  type: z.string().min(1).max(200),
  subject: z.string().max(500).optional(),
  time: saidTime.optional(),
  datacontenttype: z.string().max(100).optional(),
  data: z.unknown().optional(),
});
export type CloudEvent = z.infer<typeof cloudEventSchema>;

export const MOST_EVENTS = 100;

/** The attributes of an event stand where its signature does not reach. */
export class UnsignedEvent extends Error {}

/**
 * The events of a request, as the HTTP binding of CloudEvents 1.0 has them: structured or batched.
 * In its third way, binary, the attributes are headers; a signature covers the body alone, so
 * whoever sent it again with other headers would be believed.
 * @throws UnsignedEvent when it is binary; ZodError when it is no such event; SyntaxError when the
 *   body is no JSON
 */
export function readCloudEvents(contentType: string, body: string): CloudEvent[] {
  const type = contentType.split(";")[0].trim().toLowerCase();
  if (type === "application/cloudevents-batch+json")
    return z
      .array(cloudEventSchema)
      .max(MOST_EVENTS, `At most ${MOST_EVENTS} events are taken at once.`)
      .parse(JSON.parse(body));
  if (type === "application/cloudevents+json") return [cloudEventSchema.parse(JSON.parse(body))];
  throw new UnsignedEvent(type);
}
