import { and, asc, count, desc, eq, isNull, sql } from "drizzle-orm";
import type { ReportView } from "@/core/intake/desk-view";
import type { BroughtBackBy, ReturnReason } from "@/core/intake/report-history";
import { reproducible } from "@/core/intake/reproduction";
import type { VerdictKind } from "@/core/intake/verdict";
import { pick } from "@/core/item/pick";
import { database } from "@/db/connection";
import {
  intakeForm,
  person,
  report,
  reportEvent,
  reportFile,
  reportFollower,
  reportMessage,
  reportVerdict,
  reproduction,
  storedFile,
} from "@/db/schema";
import { enterProject, seesReport } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { partsSuggested, partsTaken } from "@/core/intake/part-suggestion";
import { loadTerms } from "../item/terms/load";
import { alikeReports, deployedLately, earlierReports, similarItems } from "./report-context";
import { goesOutOf } from "../plan/goes-out";
import { seenKeysOf } from "./desk-items";
import { isPicture } from "../files/kind";

const SHOWN = [
  "id",
  "reference",
  "title",
  "happened",
  "reproduce",
  "place",
  "mail",
  "way",
  "status",
  "teamId",
  "parkedUntil",
  "declineReason",
  "itemId",
  "receivedAt",
  "returnedAt",
  "version",
  "answers",
] as const satisfies (keyof ReportView["report"])[];

/** One report with everything known around it. */
export async function readReport(
  viewer: Viewer,
  reportId: string,
  now = Date.now(),
): Promise<ReportView> {
  const db = database();
  const [row] = await db
    .select({ report, form: intakeForm.definition })
    .from(report)
    .leftJoin(intakeForm, eq(intakeForm.id, report.formId))
    .where(and(eq(report.id, reportId), seesReport(db, viewer)));
  if (!row) throw notFound("report");
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { id: row.report.projectId },
    action: "read intake",
    asked: "report",
  });
  const open = pick(row.report, SHOWN);
  const messages = await messagesOf(reportId);
  // What was answered is part of what it is about.
  const answers = messages.filter((m) => m.kind === "answer").map((m) => m.body);
  const told = { ...open, happened: [open.happened, ...answers].join("\n") };
  const [
    verdicts,
    files,
    tries,
    followers,
    similar,
    similarReports,
    earlier,
    deployed,
    keys,
    broughtBack,
    terms,
    goesOut,
  ] = await Promise.all([
    verdictsOf(reportId),
    filesOf(reportId),
    triesOf(viewer, reportId),
    followersOf(reportId),
    similarItems(viewer, project, told),
    alikeReports(project.id, told),
    earlierReports(viewer, project.id, open),
    deployedLately(viewer, project, told, now),
    seenKeysOf(viewer, [open.itemId]),
    broughtBackOf(viewer, reportId),
    loadTerms(db, project.id),
    goesOutOf(db, [open.itemId]),
  ]);
  const seen = open.itemId !== null && keys.has(open.itemId) ? open.itemId : null;
  return {
    report: open,
    saidParts: row.report.parts,
    parts: partsTaken(row.report, terms),
    suggested: partsSuggested(told, terms),
    typeId: row.form?.lands.typeId ?? null,
    files,
    messages,
    verdicts,
    tries,
    reproducible: reproducible(tries.map((t) => t.result)),
    broughtBack,
    followers,
    similar,
    similarReports,
    earlier,
    deployed,
    itemKey: seen === null ? null : keys.get(seen)!,
    goesOut: seen === null ? null : (goesOut.get(seen) ?? null),
  };
}

/** What was said about it and to whoever reported it, without what was taken back. */
const messagesOf = (reportId: string): Promise<ReportView["messages"]> =>
  database()
    .select({
      kind: reportMessage.kind,
      body: reportMessage.body,
      at: reportMessage.at,
      author: person.name,
    })
    .from(reportMessage)
    .leftJoin(person, eq(person.id, reportMessage.authorId))
    .where(and(eq(reportMessage.reportId, reportId), isNull(reportMessage.takenBackAt)))
    .orderBy(asc(reportMessage.id));

const verdictsOf = (reportId: string): Promise<ReportView["verdicts"]> =>
  database()
    .select({
      id: reportVerdict.id,
      kind: sql<VerdictKind>`${reportVerdict.verdict} ->> 'kind'`,
      by: person.name,
      at: reportVerdict.at,
      undoneAt: reportVerdict.undoneAt,
    })
    .from(reportVerdict)
    .leftJoin(person, eq(person.id, reportVerdict.byId))
    .where(eq(reportVerdict.reportId, reportId))
    .orderBy(desc(reportVerdict.at));

async function filesOf(reportId: string): Promise<ReportView["files"]> {
  const rows = await database()
    .select({
      id: reportFile.id,
      name: reportFile.name,
      mediaType: reportFile.mediaType,
      size: storedFile.size,
    })
    .from(reportFile)
    .innerJoin(storedFile, eq(storedFile.sha256, reportFile.sha256))
    .where(eq(reportFile.reportId, reportId))
    .orderBy(asc(reportFile.at), asc(reportFile.id));
  return rows.map(({ mediaType, ...file }) => ({ ...file, picture: isPicture(mediaType) }));
}

/** Who tried to make it happen here, without what was taken back. */
async function triesOf(viewer: Viewer, reportId: string): Promise<ReportView["tries"]> {
  const rows = await database()
    .select({ try: reproduction, by: person.name })
    .from(reproduction)
    .innerJoin(person, eq(person.id, reproduction.byId))
    .where(and(eq(reproduction.reportId, reportId), isNull(reproduction.takenBackAt)))
    .orderBy(asc(reproduction.at));
  return rows.map(({ try: { id, at, tried, version, steps, result, note, byId }, by }) => ({
    id,
    by,
    at,
    tried,
    version,
    steps,
    result,
    note,
    mine: byId === viewer.personId,
  }));
}

async function followersOf(reportId: string): Promise<number> {
  const [{ followers }] = await database()
    .select({ followers: count() })
    .from(reportFollower)
    .where(eq(reportFollower.reportId, reportId));
  return followers;
}

/** What brought a report back last, where it was something new that the reader may see. */
async function broughtBackOf(viewer: Viewer, reportId: string): Promise<ReportView["broughtBack"]> {
  const [last] = await database()
    .select({ data: reportEvent.data })
    .from(reportEvent)
    .where(and(eq(reportEvent.reportId, reportId), eq(reportEvent.kind, "returned")))
    .orderBy(desc(reportEvent.seq))
    .limit(1);
  const { why, by } = (last?.data ?? {}) as { why?: ReturnReason; by?: BroughtBackBy };
  if (!why || !by) return null;
  if (by.kind === "item") {
    const key = (await seenKeysOf(viewer, [by.id])).get(by.id);
    return key === undefined ? null : { why, key, id: by.id, about: "item" };
  }
  const [one] = await database()
    .select({ reference: report.reference })
    .from(report)
    .where(and(eq(report.id, by.id), seesReport(database(), viewer)));
  return one ? { why, key: one.reference, id: by.id, about: "report" } : null;
}
