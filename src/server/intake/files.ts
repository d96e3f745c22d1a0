import { and, asc, eq } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import { database, type Reader } from "@/db/connection";
import { report, reportFile } from "@/db/schema";
import { readKept } from "../files/store";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { seenReport } from "./seen-report";
import { isId } from "../is-id";

export interface ServedFile {
  name: string;
  mediaType: string;
  /** Names the bytes: the same digest is the same file. */
  sha256: string;
  content: Buffer;
}

/** A file that came with a report, for people of its project. */
export async function reportFileFor(
  viewer: Viewer,
  reportId: string,
  fileId: string,
): Promise<ServedFile> {
  await seenReport(viewer, reportId, "read intake", database());
  return fileOfReport(reportId, fileId);
}

/** A file of a report that the caller has entered. @throws Refused where it has none such */
export async function fileOfReport(reportId: string, fileId: string): Promise<ServedFile> {
  const db = database();
  const [row] = isId(fileId)
    ? await db
        .select()
        .from(reportFile)
        .where(and(eq(reportFile.id, fileId), eq(reportFile.reportId, reportId)))
    : [];
  const content = row ? await readKept(db, row.sha256) : null;
  if (!row || !content) throw notFound("file");
  const { name, mediaType, sha256 } = row;
  return { name, mediaType, sha256, content };
}

/** What came with the reports of an item, by report. */
export async function filesOfReports(
  reader: Reader,
  itemId: string,
): Promise<Map<string, { id: string; name: string; mediaType: string }[]>> {
  const rows = await reader
    .select({
      reportId: reportFile.reportId,
      id: reportFile.id,
      name: reportFile.name,
      mediaType: reportFile.mediaType,
    })
    .from(reportFile)
    .innerJoin(report, eq(report.id, reportFile.reportId))
    .where(eq(report.itemId, itemId))
    .orderBy(asc(reportFile.at), asc(reportFile.id));
  const byReport = grouped(rows, ({ reportId }) => reportId);
  return new Map([...byReport].map(([id, of]) => [id, of.map(({ reportId: _, ...file }) => file)]));
}
