import { and, asc, eq, isNull } from "drizzle-orm";
import { statusForRequester, UNJUDGED } from "@/core/intake/report";
import { database, transact } from "@/db/connection";
import { item, outbox, project, report, reportMessage, reportPicture, state } from "@/db/schema";
import { notFound, Refused } from "../refused";
import { refuse } from "@/core/workflow/refusal";

/** What somebody without an account sees of their report: nothing internal, no names of people. */
export interface PrivatePage {
  reference: string;
  projectName: string;
  title: string;
  happened: string;
  reproduce: string;
  place: string;
  receivedAt: number;
  now: number;
  hasPicture: boolean;
  status: { headline: string; detail: string };
  awaitsAnswer: boolean;
  messages: { kind: "question" | "answer" | "progress"; body: string; at: number }[];
}

const TOKEN = /^[A-Za-z0-9_-]{32}$/;

export async function readPrivatePage(token: string): Promise<PrivatePage> {
  if (!TOKEN.test(token)) throw notFound("report");
  const db = database();
  const [row] = await db
    .select({ report, projectName: project.name, item: { stateKind: item.stateKind, outcome: item.outcome }, stage: state.stage, picture: reportPicture.mediaType })
    .from(report)
    .innerJoin(project, eq(project.id, report.projectId))
    .leftJoin(item, eq(item.id, report.itemId))
    .leftJoin(state, eq(state.id, item.stateId))
    .leftJoin(reportPicture, eq(reportPicture.reportId, report.id))
    .where(eq(report.token, token));
  if (!row) throw notFound("report");
  const messages = await db
    .select({ kind: reportMessage.kind, body: reportMessage.body, at: reportMessage.at })
    .from(reportMessage)
    .where(and(eq(reportMessage.reportId, row.report.id), isNull(reportMessage.takenBackAt)))
    .orderBy(asc(reportMessage.id));
  const { reference, title, happened, reproduce, place, receivedAt, status } = row.report;
  return {
    reference,
    projectName: row.projectName,
    title,
    happened,
    reproduce,
    place,
    receivedAt,
    now: Date.now(),
    hasPicture: row.picture !== null,
    status: statusForRequester(row.report, row.item && { ...row.item, stage: row.stage }),
    awaitsAnswer: status === "asked",
    messages,
  };
}

/** The requester answers the open question; the report returns to the queue. */
export async function answerQuestion(token: string, answer: string): Promise<void> {
  if (!TOKEN.test(token)) throw notFound("report");
  await transact(async (tx) => {
    const [row] = await tx.select().from(report).where(eq(report.token, token)).for("update");
    if (!row) throw notFound("report");
    if (row.status !== "asked")
      throw new Refused(refuse("conflict", "There is no open question any more.", "Your report is with us; you need not do anything."));
    const now = Date.now();
    await tx.insert(reportMessage).values({ reportId: row.id, kind: "answer", body: answer, at: now });
    await tx.update(report).set({ ...UNJUDGED, returnedAt: now, version: row.version + 1 }).where(eq(report.id, row.id));
    await tx.insert(outbox).values({ projectId: row.projectId, at: now, kind: "intake", reportId: row.id });
  });
}

export async function privatePicture(token: string): Promise<{ mediaType: string; content: Buffer }> {
  const [row] = await database()
    .select({ mediaType: reportPicture.mediaType, content: reportPicture.content })
    .from(reportPicture)
    .innerJoin(report, eq(report.id, reportPicture.reportId))
    .where(eq(report.token, TOKEN.test(token) ? token : ""));
  if (!row) throw notFound("picture");
  return row;
}
