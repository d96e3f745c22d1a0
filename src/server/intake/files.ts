import { and, eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { reportFile } from "@/db/schema";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { seenReport } from "./seen-report";

export interface ServedFile {
  name: string;
  mediaType: string;
  content: Buffer;
}

/** A file that came with a report, for people of its project. */
export async function reportFileFor(
  viewer: Viewer,
  reportId: string,
  fileId: string,
): Promise<ServedFile> {
  const db = database();
  await seenReport(viewer, reportId, "read intake", db);
  const [row] = await db
    .select({ name: reportFile.name, mediaType: reportFile.mediaType, content: reportFile.content })
    .from(reportFile)
    .where(and(eq(reportFile.id, fileId), eq(reportFile.reportId, reportId)));
  if (!row) throw notFound("file");
  return row;
}
