import { and, eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { reportFile } from "@/db/schema";
import { readKept } from "../files/store";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { seenReport } from "./seen-report";

export interface ServedFile {
  name: string;
  mediaType: string;
  /** Names the bytes: the same digest is the same file. */
  sha256: string;
  content: Buffer;
}

const FILE_ID = /^[0-9a-f-]{36}$/;

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
  const [row] = FILE_ID.test(fileId)
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
