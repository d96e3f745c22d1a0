import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { newAcceptance, type Acceptance } from "@/core/intake/acceptance";
import type { Verdict, VerdictResult } from "@/core/intake/verdict";
import { database } from "@/db/connection";
import { report } from "@/db/schema";
import { readReport } from "@/server/intake/read-report";
import type { SentFile } from "@/server/intake/file";
import { submitForm } from "@/server/intake/forms";
import { triageReport } from "@/server/intake/triage-report";
import type { Viewer } from "@/server/people/viewer";
import { TOMAS } from "./people";

/** What the passengers' form of the demo sends. */
export const FORM = {
  title: ["Gate 4 hums at night"],
  happened: ["It hums so loud that the neighbours complain."],
  travelled: ["yes"],
  place: ["Heron island"],
  mail: ["anna@post.saltmarsh.example"],
};

/** A report that came in by a public form. */
export async function sent(
  change: Record<string, string[]> = {},
  { files = [], project = "TIX" }: { files?: SentFile[]; project?: string } = {},
): Promise<typeof report.$inferSelect> {
  const { token } = await submitForm({
    projectKey: project,
    name: "report",
    raw: { ...FORM, ...change },
    sent: files,
  });
  const [row] = await database().select().from(report).where(eq(report.token, token));
  return row;
}

export const reportRow = async (id: string) =>
  (await database().select().from(report).where(eq(report.id, id)))[0];

export async function verdictOn(
  id: string,
  verdict: Verdict,
  viewer: Viewer = TOMAS,
): Promise<VerdictResult> {
  const { report: open } = await readReport(viewer, id);
  return triageReport(viewer, id, { commandId: randomUUID(), seenVersion: open.version, verdict });
}

export const accepting = (
  change: Partial<Acceptance> = {},
): { kind: "accept"; acceptance: Acceptance } => ({
  kind: "accept",
  acceptance: { ...newAcceptance("Gate 4 hums", "bug"), ...change },
});
