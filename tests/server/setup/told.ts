import { readAlerts } from "@/server/alerts/read";
import type { Viewer } from "@/server/people/viewer";

/** Each thing that a person finds among what they are to look at, the latest alert first. */
export async function toldTo(viewer: Viewer) {
  const { groups } = await readAlerts(viewer, { shelf: "open" });
  return groups.flatMap(({ alerts, ...item }) =>
    alerts.flatMap(({ lines, ...alert }) =>
      lines.map((line) => ({ ...item, ...alert, ...line, at: line.at })),
    ),
  );
}
