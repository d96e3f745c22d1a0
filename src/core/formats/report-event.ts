import { z } from "zod";
import type { CloudEvent } from "./cloud-event";
import { plainText } from "./plain-text";

/**
 * The CloudEvents type by which another program reports something: a monitor, a support desk, a
 * gate.
 */
export const REPORT_EVENT = "zigzag-lane.report.sent.v1";

const text = (most: number) =>
  z
    .string()
    .transform((t) => plainText(t).trim())
    .pipe(z.string().max(most));

const data = z.object({
  /** What it is about, in a few words. */
  title: text(200).pipe(z.string().min(1, "A report says in a few words what it is about.")),
  happened: text(10_000).default(""),
  reproduce: text(5_000).default(""),
  place: text(200).default(""),
  /** Whom to write to about it; empty for nobody. */
  mail: z.union([z.literal(""), z.email().max(200)]).default(""),
});

export type ReportNews = z.infer<typeof data>;

/**
 * Reads a report that another program sent.
 * @returns null for an event of another type
 * @throws ZodError when it is of this type and lacks what a report needs
 */
export function readReportEvent(event: CloudEvent): ReportNews | null {
  return event.type === REPORT_EVENT ? data.parse(event.data) : null;
}
