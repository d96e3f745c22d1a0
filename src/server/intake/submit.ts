import { randomBytes, randomInt, randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { UNJUDGED } from "@/core/intake/report";
import { database, transact } from "@/db/connection";
import { outbox, project, report, reportPicture } from "@/db/schema";
import { notFound } from "../refused";
import { checkPicture } from "./picture";
import type { ReportForm } from "./request";

/** The project whose public report page this is. Members-only projects have none. */
export async function reportPage(projectKey: string): Promise<{ key: string; name: string }> {
  const [row] = await database().select({ id: project.id, key: project.key, name: project.name, visibility: project.visibility }).from(project).where(eq(project.key, projectKey));
  if (!row || row.visibility !== "everyone") throw notFound("report page");
  return { key: row.key, name: row.name };
}

/**
 * Takes in a report from somebody without an account.
 * @returns its reference, and the token that opens its private page (192 random bits)
 */
export async function submitReport(projectKey: string, form: ReportForm, picture: Buffer | null): Promise<{ reference: string; token: string }> {
  await reportPage(projectKey);
  const mediaType = picture ? checkPicture(picture) : null;
  return transact(async (tx) => {
    const [{ id: projectId }] = await tx.select({ id: project.id }).from(project).where(eq(project.key, projectKey));
    const id = randomUUID();
    const token = randomBytes(24).toString("base64url");
    const reference = `R-${randomInt(36 ** 5, 36 ** 6).toString(36).toUpperCase()}`;
    const now = Date.now();
    await tx.insert(report).values({ id, projectId, reference, token, ...form, ...UNJUDGED, receivedAt: now, returnedAt: null, version: 1 });
    if (picture && mediaType) await tx.insert(reportPicture).values({ reportId: id, mediaType, content: picture });
    await tx.insert(outbox).values({ projectId, at: now, kind: "intake", reportId: id });
    return { reference, token };
  });
}
