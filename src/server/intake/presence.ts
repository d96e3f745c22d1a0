import { and, eq, gte } from "drizzle-orm";
import { transact } from "@/db/connection";
import { deskPresence } from "@/db/schema";
import { announce } from "../events/announce";
import type { Viewer } from "../people/viewer";
import { PRESENT_MS } from "./desk";
import { seenReport } from "./seen-report";

/**
 * Says that somebody has a report open, so that two do not judge the same one. Others are told when
 * it is another than before.
 */
export async function openOnDesk(
  viewer: Viewer,
  reportId: string,
  now = Date.now(),
): Promise<void> {
  const { row } = await seenReport(viewer, reportId, "judge report");
  await transact(async (tx) => {
    const [before] = await tx
      .select({ reportId: deskPresence.reportId })
      .from(deskPresence)
      .where(
        and(eq(deskPresence.personId, viewer.personId), gte(deskPresence.at, now - PRESENT_MS)),
      );
    await tx
      .insert(deskPresence)
      .values({ personId: viewer.personId, reportId, at: now })
      .onConflictDoUpdate({ target: deskPresence.personId, set: { reportId, at: now } });
    if (before?.reportId !== reportId)
      await announce(
        tx,
        row.projectId,
        { kind: "report opened", data: { reportId, personId: viewer.personId } },
        now,
      );
  });
}
