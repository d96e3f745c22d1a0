import { z } from "zod";
import type { CloudEvent } from "./cloud-event";

/** The CloudEvents type by which another program reports something: a monitor, a support desk, a gate. */
export const REPORT_EVENT = "zigzag-lane.report.sent.v1";

const data = z.object({
  /** What it is about, in a few words. */
  title: z.string().trim().min(1, "A report says in a few words what it is about.").max(200),
  happened: z.string().trim().max(10_000).default(""),
  reproduce: z.string().trim().max(5_000).default(""),
  place: z.string().trim().max(200).default(""),
  /** Whom to write to about it; empty for nobody. */
  mail: z.union([z.literal(""), z.email().max(200)]).default(""),
});

export type ReportNews = z.infer<typeof data>;

// Everything below a space but the line feed and the tab.
const CONTROL = /[\u0000-\u0008\u000b-\u001f\u007f]/g;

/**
 * Reads a report that another program sent.
 * @returns null for an event of another type
 * @throws ZodError when it is of this type and lacks what a report needs
 */
export function readReportEvent(event: CloudEvent): ReportNews | null {
  if (event.type !== REPORT_EVENT) return null;
  const news = data.parse(event.data);
  return Object.fromEntries(Object.entries(news).map(([name, text]) => [name, text.replace(CONTROL, "")])) as ReportNews;
}
