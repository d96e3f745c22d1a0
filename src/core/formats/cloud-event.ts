import { z } from "zod";

/** An event in the form of CloudEvents 1.0 (CNCF, JSON event format). */
export const cloudEventSchema = z.looseObject({
  specversion: z.literal("1.0"),
  id: z.string().min(1).max(200),
  source: z.string().min(1).max(500),
  type: z.string().min(1).max(200),
  subject: z.string().max(500).optional(),
  time: z.iso.datetime({ offset: true }).optional(),
  datacontenttype: z.string().max(100).optional(),
  data: z.unknown().optional(),
});
export type CloudEvent = z.infer<typeof cloudEventSchema>;

export const MOST_EVENTS = 100;

/**
 * The events of a request, in any of the ways that the HTTP binding of CloudEvents 1.0 has: structured, batched, or
 * binary, where the attributes are headers.
 * @throws ZodError when it is no such event; SyntaxError when the body is no JSON
 */
export function readCloudEvents(contentType: string, header: (name: string) => string | null, body: string): CloudEvent[] {
  const type = contentType.split(";")[0].trim().toLowerCase();
  if (type === "application/cloudevents-batch+json") return z.array(cloudEventSchema).max(MOST_EVENTS, `At most ${MOST_EVENTS} events are taken at once.`).parse(JSON.parse(body));
  if (type === "application/cloudevents+json") return [cloudEventSchema.parse(JSON.parse(body))];
  const attributes = Object.fromEntries(["specversion", "id", "source", "type", "subject", "time"].flatMap((name) => [[name, decoded(header(`ce-${name}`))]] as [string, string | null][]).filter(([, value]) => value !== null));
  return [cloudEventSchema.parse({ ...attributes, data: body.trim() === "" ? undefined : JSON.parse(body) })];
}

/** Headers carry what is not plain ASCII percent-encoded. */
function decoded(value: string | null): string | null {
  if (value === null) return null;
  try {
    return decodeURIComponent(value);
  } catch {
    return value;
  }
}
