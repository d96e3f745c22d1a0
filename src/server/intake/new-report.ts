import { randomInt } from "node:crypto";
import type { FormAnswer } from "@/core/intake/form";
import { UNJUDGED, type ReportStanding, type ReportWay } from "@/core/intake/report";
import type { Transaction } from "@/db/connection";
import { reportFile } from "@/db/schema";
import { announce } from "../events/announce";
import { keepFile } from "../files/store";
import type { CheckedFile } from "./file";
import type { ReportRow } from "./seen-report";
import { receiveReports, type NewReport } from "./store";
import { newToken } from "../people/link-token";
import { v7 as newId } from "uuid";

/** What is known of a report when it comes in. */
export interface IncomingReport {
  title: string;
  happened: string;
  reproduce?: string;
  place?: string;
  /** Empty where nobody can be written to. */
  mail: string;
  way: ReportWay;
  formId?: string | null;
  answers?: FormAnswer[];
  teamId?: string | null;
  importId?: string;
  importPart?: number;
  standing?: ReportStanding;
}

/** What people say to each other; never enough to open a private page. */
const newReference = () =>
  `R-${randomInt(36 ** 5, 36 ** 6)
    .toString(36)
    .toUpperCase()}`;

export function newReport(projectId: string, incoming: IncomingReport, now: number): NewReport {
  const { standing = UNJUDGED, reproduce = "", place = "", ...rest } = incoming;
  return {
    id: newId(),
    projectId,
    reference: newReference(),
    token: newToken(),
    reproduce,
    place,
    ...rest,
    ...standing,
    receivedAt: now,
  };
}

/** Stores a report that came in, with its files, and tells the desk. */
export async function storeReport({
  tx,
  projectId,
  incoming,
  files,
  now,
}: {
  tx: Transaction;
  projectId: string;
  incoming: IncomingReport;
  files: readonly CheckedFile[];
  now: number;
}): Promise<ReportRow> {
  const [row] = await receiveReports(tx, [newReport(projectId, incoming, now)]);
  await storeFiles(tx, row.id, files, now);
  const data = { reportId: row.id, kinds: ["received" as const] };
  await announce(tx, projectId, { kind: "report changed", data }, now);
  return row;
}

/** Stores files with a report; they stay in the order in which they were chosen. */
export async function storeFiles(
  tx: Transaction,
  reportId: string,
  files: readonly CheckedFile[],
  now: number,
): Promise<void> {
  for (const [i, { name, mediaType, content }] of files.entries())
    await tx.insert(reportFile).values({
      id: newId(),
      reportId,
      name,
      mediaType,
      sha256: await keepFile(tx, content, now),
      at: now + i,
    });
}
