import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { report, reportFile } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";

export interface ServedFile {
  name: string;
  mediaType: string;
  content: Buffer;
}

/** A file that came with a report, for people of its project. */
export async function reportFileFor(viewer: Viewer, reportId: string, fileId: string): Promise<ServedFile> {
  const db = database();
  const [row] = await db.select({ reportId: report.id, projectId: report.projectId, name: reportFile.name, mediaType: reportFile.mediaType, content: reportFile.content }).from(reportFile).innerJoin(report, eq(report.id, reportFile.reportId)).where(eq(reportFile.id, fileId));
  if (!row || row.reportId !== reportId) throw notFound("file");
  await enterProject(db, viewer, { id: row.projectId }, "read intake");
  return row;
}
