import { and, eq, gte } from "drizzle-orm";
import { database, transact } from "@/db/connection";
import { deskPresence, outbox, report } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { PRESENT_MS } from "./desk";

/** Says that somebody has a report open, so that two do not judge the same one. Others are told when it is another than before. */
export async function openOnDesk(viewer: Viewer, reportId: string, now = Date.now()): Promise<void> {
  const [row] = await database().select({ projectId: report.projectId }).from(report).where(eq(report.id, reportId));
  if (!row) throw notFound("report");
  await enterProject(database(), viewer, { id: row.projectId }, "judge report");
  await transact(async (tx) => {
    const [before] = await tx.select({ reportId: deskPresence.reportId }).from(deskPresence).where(and(eq(deskPresence.personId, viewer.personId), gte(deskPresence.at, now - PRESENT_MS)));
    await tx.insert(deskPresence).values({ personId: viewer.personId, reportId, at: now }).onConflictDoUpdate({ target: deskPresence.personId, set: { reportId, at: now } });
    if (before?.reportId !== reportId) await tx.insert(outbox).values({ projectId: row.projectId, at: now, kind: "intake" });
  });
}
