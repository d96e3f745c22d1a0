import { and, asc, count, desc, eq, inArray, isNull, ne, sql, type SQL } from "drizzle-orm";
import { mostSimilar, type Text } from "@/core/intake/similarity";
import type { ReportStatus, ReportWay } from "@/core/intake/report";
import type { Verdict } from "@/core/intake/verdict";
import { database } from "@/db/connection";
import { item, itemType, person, report, reportMessage, reportPicture, reportVerdict, state } from "@/db/schema";
import type { TargetState } from "@/core/intake/service-target";
import { queuePromises } from "./promises";
import { enterProject } from "../people/access";
import { roster, type RosterPerson } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { projectTypes } from "../workflow/load";

export interface QueueRow {
  id: string;
  reference: string;
  title: string;
  place: string;
  receivedAt: number;
  returnedAt: number | null;
  status: ReportStatus;
  parkedUntil: string | null;
  way: ReportWay;
  /** The promise of a first answer, while it has no verdict. */
  promise: { target: string; answer: TargetState } | null;
}

export interface DeskView {
  project: { id: string; key: string; name: string; zone: string };
  queue: QueueRow[];
  /** Asked and waiting for an answer, or parked. */
  aside: QueueRow[];
  types: { id: string; name: string }[];
  people: (RosterPerson & { load: number })[];
  teams: { id: string; name: string }[];
  backlogTop: { id: string; key: string; title: string }[];
  /** What a bug can have been found in: work in progress, and what was finished lately. */
  inWork: { id: string; key: string; title: string }[];
  finishedLately: { id: string; key: string; title: string }[];
  mayJudge: boolean;
  now: number;
}

const queueColumns = {
  id: report.id,
  reference: report.reference,
  title: report.title,
  place: report.place,
  receivedAt: report.receivedAt,
  returnedAt: report.returnedAt,
  status: report.status,
  parkedUntil: report.parkedUntil,
  way: report.way,
  happened: report.happened,
};

/** The triage desk: what has no verdict yet, oldest first, and what it needs to give one. */
export async function readDesk(viewer: Viewer, projectKey: string, now = Date.now()): Promise<DeskView> {
  const db = database();
  const access = await enterProject(db, viewer, { key: projectKey }, "read intake");
  const { project } = access;
  const [queue, aside, { types }, people, loads, backlogTop, inWork, finishedLately] = await Promise.all([
    db.select(queueColumns).from(report).where(and(eq(report.projectId, project.id), eq(report.status, "unjudged"))).orderBy(asc(report.receivedAt), asc(report.id)),
    db.select(queueColumns).from(report).where(and(eq(report.projectId, project.id), inArray(report.status, ["asked", "parked"]))).orderBy(asc(report.receivedAt)),
    projectTypes(db, project.id),
    roster(db, project.id),
    db.select({ id: item.assigneeId, load: count() }).from(item).where(and(eq(item.projectId, project.id), inArray(item.stateKind, ["waiting", "working"]), isNull(item.withdrawnAt), isNull(item.parentId))).groupBy(item.assigneeId),
    db
      .select({ id: item.id, number: item.number, title: item.title })
      .from(item)
      .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
      .where(and(eq(item.projectId, project.id), eq(item.stateKind, "unstarted"), isNull(item.withdrawnAt), sql`${itemType.level} >= 1`))
      .orderBy(asc(item.rank))
      .limit(40),
    foundIn(project.id, sql`${item.stateKind} in ('waiting', 'working')`, 120),
    foundIn(project.id, sql`${item.stateKind} = 'finished' and ${item.outcome} = 'delivered'`, 80),
  ]);
  const promises = await queuePromises(db, project, queue, types.find((t) => t.id === "bug")?.id ?? types[0]?.id ?? "", now);
  const row = ({ happened: _, ...r }: (typeof queue)[number]): QueueRow => ({ ...r, promise: promises.get(r.id) ?? null });
  const keyed = (b: { id: string; number: number; title: string }) => ({ id: b.id, key: `${project.key}-${b.number}`, title: b.title });
  const loadOf = new Map(loads.map((l) => [l.id, l.load]));
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    queue: queue.map(row),
    aside: aside.map(row),
    types: types.filter((t) => t.level >= 1).map(({ id, name }) => ({ id, name })),
    people: people.people.map((p) => ({ ...p, load: loadOf.get(p.id) ?? 0 })),
    teams: people.teams,
    backlogTop: backlogTop.map(keyed),
    inWork: inWork.map(keyed),
    finishedLately: finishedLately.map(keyed),
    mayJudge: access.may("judge report"),
    now,
  };
}

/** Items of their own in some state, those that moved last first. */
const foundIn = (projectId: string, where: SQL, most: number) =>
  database()
    .select({ id: item.id, number: item.number, title: item.title })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(and(eq(item.projectId, projectId), isNull(item.withdrawnAt), sql`${itemType.level} >= 1`, where))
    .orderBy(desc(item.enteredStateAt))
    .limit(most);

/** How many reports wait for a verdict; the number beside the Intake stop. */
export async function unjudgedCount(projectId: string): Promise<number> {
  const [row] = await database().select({ n: count() }).from(report).where(and(eq(report.projectId, projectId), eq(report.status, "unjudged")));
  return row.n;
}

export interface SimilarItem {
  id: string;
  key: string;
  title: string;
  stateName: string;
  finished: boolean;
  outcome: string | null;
  score: number;
  words: string[];
}

export interface ReportView {
  report: Omit<typeof report.$inferSelect, "token">;
  hasPicture: boolean;
  messages: { kind: string; body: string; at: number; author: string | null }[];
  verdicts: { id: string; verdict: Verdict; by: string; at: number; undoneAt: number | null }[];
  similar: SimilarItem[];
  similarReports: { id: string; reference: string; title: string; status: ReportStatus; score: number; words: string[]; itemId: string | null }[];
  earlier: { id: string; reference: string; title: string; status: ReportStatus }[];
  itemKey: string | null;
}

/** One report with everything known around it. */
export async function readReport(viewer: Viewer, reportId: string): Promise<ReportView> {
  const db = database();
  const [row] = await db.select({ report, itemNumber: item.number }).from(report).leftJoin(item, eq(item.id, report.itemId)).where(eq(report.id, reportId));
  if (!row) throw notFound("report");
  const { project } = await enterProject(db, viewer, { id: row.report.projectId }, "read intake");
  const { token: _token, ...open } = row.report;
  const [messages, verdicts, picture, similar, similarReports, earlier] = await Promise.all([
    db
      .select({ kind: reportMessage.kind, body: reportMessage.body, at: reportMessage.at, author: person.name })
      .from(reportMessage)
      .leftJoin(person, eq(person.id, reportMessage.authorId))
      .where(and(eq(reportMessage.reportId, reportId), isNull(reportMessage.takenBackAt)))
      .orderBy(asc(reportMessage.id)),
    db
      .select({ id: reportVerdict.id, verdict: reportVerdict.verdict, by: person.name, at: reportVerdict.at, undoneAt: reportVerdict.undoneAt })
      .from(reportVerdict)
      .innerJoin(person, eq(person.id, reportVerdict.byId))
      .where(eq(reportVerdict.reportId, reportId))
      .orderBy(desc(reportVerdict.at)),
    db.select({ mediaType: reportPicture.mediaType }).from(reportPicture).where(eq(reportPicture.reportId, reportId)),
    similarItems(project.id, project.key, open),
    alikeReports(project.id, open),
    db
      .select({ id: report.id, reference: report.reference, title: report.title, status: report.status })
      .from(report)
      .where(and(eq(report.projectId, project.id), eq(report.mail, open.mail), ne(report.id, reportId)))
      .orderBy(desc(report.receivedAt))
      .limit(5),
  ]);
  return {
    report: open,
    hasPicture: picture.length > 0,
    messages,
    verdicts,
    similar,
    similarReports,
    earlier,
    itemKey: row.itemNumber === null ? null : `${project.key}-${row.itemNumber}`,
  };
}

const CANDIDATES = 200;
const SHOWN = 6;

/** A query that finds every text with at least one of the words of another text. */
const anyWordOf = (text: string) =>
  sql`coalesce((select string_agg(quote_literal(lexeme), ' | ') from unnest(to_tsvector('english', ${text}))), '')::tsquery`;

type Open = Omit<typeof report.$inferSelect, "token">;
const textOf = (r: Open): Text => ({ id: r.id, title: r.title, body: `${r.happened} ${r.place}` });

async function similarItems(projectId: string, projectKey: string, open: Open): Promise<SimilarItem[]> {
  const document = sql`to_tsvector('english', ${item.title} || ' ' || ${item.description})`;
  const query = anyWordOf(`${open.title} ${open.happened}`);
  const rows = await database()
    .select({ id: item.id, number: item.number, title: item.title, description: item.description, stateName: state.name, stateKind: item.stateKind, outcome: item.outcome })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .where(and(eq(item.projectId, projectId), isNull(item.withdrawnAt), isNull(item.parentId), sql`${document} @@ ${query}`))
    .orderBy(sql`ts_rank(${document}, ${query}) desc`)
    .limit(CANDIDATES);
  const byId = new Map(rows.map((r) => [r.id, r]));
  return mostSimilar(textOf(open), rows.map((r) => ({ id: r.id, title: r.title, body: r.description })), SHOWN).map(({ id, score, words }) => {
    const r = byId.get(id)!;
    return { id, key: `${projectKey}-${r.number}`, title: r.title, stateName: r.stateName, finished: r.stateKind === "finished", outcome: r.outcome, score, words };
  });
}

async function alikeReports(projectId: string, open: Open): Promise<ReportView["similarReports"]> {
  const rows = await database()
    .select()
    .from(report)
    .where(
      and(
        eq(report.projectId, projectId),
        ne(report.id, open.id),
        // A report with an item is found by its item.
        inArray(report.status, ["unjudged", "asked", "parked"]),
        sql`to_tsvector('english', ${report.title} || ' ' || ${report.happened}) @@ ${anyWordOf(`${open.title} ${open.happened}`)}`,
      ),
    )
    .orderBy(desc(report.receivedAt))
    .limit(CANDIDATES);
  const byId = new Map(rows.map((r) => [r.id, r]));
  return mostSimilar(textOf(open), rows.map(textOf), 3, 0.2).map(({ id, score, words }) => {
    const { reference, title, status, itemId } = byId.get(id)!;
    return { id, reference, title, status, itemId, score, words };
  });
}

export async function reportPictureFor(viewer: Viewer, reportId: string): Promise<{ mediaType: string; content: Buffer }> {
  const db = database();
  const [row] = await db.select({ projectId: report.projectId, mediaType: reportPicture.mediaType, content: reportPicture.content }).from(reportPicture).innerJoin(report, eq(report.id, reportPicture.reportId)).where(eq(report.id, reportId));
  if (!row) throw notFound("picture");
  await enterProject(db, viewer, { id: row.projectId }, "read intake");
  return row;
}
