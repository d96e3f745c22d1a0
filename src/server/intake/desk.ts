import {
  and,
  asc,
  count,
  desc,
  eq,
  gte,
  inArray,
  isNotNull,
  isNull,
  ne,
  sql,
  type SQL,
} from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import type { DeskView, QueueRow, ReportView, SimilarItem } from "@/core/intake/desk-view";
import type { VerdictKind } from "@/core/intake/verdict";
import { reproducible } from "@/core/intake/reproduction";
import { mostSimilar, type Text } from "@/core/intake/similarity";
import { database } from "@/db/connection";
import {
  deskPresence,
  intakeForm,
  item,
  itemType,
  membership,
  person,
  report,
  reportFile,
  reportFollower,
  reportMessage,
  reportVerdict,
  storedFile,
  reproduction,
} from "@/db/schema";
import { enterProject, seesItem, seesReport, visibleProjects } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { notFound } from "../refused";
import { projectTypes } from "../workflow/load";
import { likelyItems, textOfCandidate } from "./candidates";
import { isPicture } from "./file";
import { relationsOf } from "./learnt-words";
import { meaningsOf } from "./meanings";
import { queuePromises } from "./promises";
import { loadRules } from "./rules";

const queueColumns = {
  id: report.id,
  reference: report.reference,
  title: report.title,
  place: report.place,
  receivedAt: report.receivedAt,
  returnedAt: report.returnedAt,
  status: report.status,
  parkedUntil: report.parkedUntil,
  parkedFor: item.number,
  way: report.way,
  teamId: report.teamId,
  version: report.version,
  happened: report.happened,
};

/** Whoever said so in the last seconds still has a report open. */
export const PRESENT_MS = 40_000;
const TAKEN_FOR_PACE = 60;
const DEPLOYED_DAYS = 14;

/** The triage desk: what has no verdict yet, oldest first, and what it needs to give one. */
export async function readDesk(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<DeskView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read intake",
  });
  const { project } = access;
  const listed = (where: SQL) =>
    db
      .select(queueColumns)
      .from(report)
      .leftJoin(item, and(eq(item.id, report.parkedItemId), seesItem(db, viewer)))
      .where(and(eq(report.projectId, project.id), where))
      .orderBy(asc(report.receivedAt), asc(report.id));
  const [
    queue,
    aside,
    { types },
    people,
    openWork,
    loads,
    backlogTop,
    inWork,
    finishedLately,
    rules,
    sprints,
    releases,
    areas,
    labels,
    took,
    readers,
    desks,
  ] = await Promise.all([
    listed(eq(report.status, "unjudged")),
    listed(inArray(report.status, ["asked", "parked"])),
    projectTypes(db, project.id),
    roster(db, project.id),
    db
      .select({ id: item.teamId, n: count() })
      .from(item)
      .where(
        and(
          eq(item.projectId, project.id),
          ne(item.stateKind, "finished"),
          isNull(item.withdrawnAt),
        ),
      )
      .groupBy(item.teamId),
    db
      .select({ id: item.assigneeId, load: count() })
      .from(item)
      .where(
        and(
          eq(item.projectId, project.id),
          inArray(item.stateKind, ["waiting", "working"]),
          isNull(item.withdrawnAt),
          isNull(item.parentId),
        ),
      )
      .groupBy(item.assigneeId),
    db
      .select({ id: item.id, number: item.number, title: item.title })
      .from(item)
      .innerJoin(
        itemType,
        and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)),
      )
      .where(
        and(
          eq(item.projectId, project.id),
          eq(item.stateKind, "unstarted"),
          isNull(item.withdrawnAt),
          sql`${itemType.level} >= 1`,
          seesItem(db, viewer),
        ),
      )
      .orderBy(asc(item.rank))
      .limit(40),
    foundIn(viewer, project.id, sql`${item.stateKind} in ('waiting', 'working')`, 120),
    foundIn(viewer, project.id, and(isNotNull(item.finishedAt), isNotNull(item.deliveredAt))!, 80),
    loadRules(db, project.id),
    loadSprints(db, project.id),
    loadReleases(db, project.id),
    db
      .select({ place: item.place })
      .from(item)
      .where(
        and(
          eq(item.projectId, project.id),
          isNotNull(item.place),
          isNull(item.withdrawnAt),
          seesItem(db, viewer),
        ),
      )
      .groupBy(item.place)
      .orderBy(desc(count()))
      .limit(40),
    labelsOf(viewer, project.id),
    db
      .select({ ms: reportVerdict.tookMs })
      .from(reportVerdict)
      .innerJoin(report, eq(report.id, reportVerdict.reportId))
      .where(and(eq(report.projectId, project.id), isNotNull(reportVerdict.tookMs)))
      .orderBy(desc(reportVerdict.at))
      .limit(TAKEN_FOR_PACE),
    db
      .select({ reportId: deskPresence.reportId, name: person.name })
      .from(deskPresence)
      .innerJoin(person, eq(person.id, deskPresence.personId))
      .innerJoin(report, eq(report.id, deskPresence.reportId))
      .where(
        and(
          eq(report.projectId, project.id),
          ne(deskPresence.personId, viewer.personId),
          gte(deskPresence.at, now - PRESENT_MS),
        ),
      ),
    otherDesks(viewer),
  ]);
  const promises = await queuePromises({
    reader: db,
    rules,
    project,
    reports: [...queue, ...aside],
    typeId: types.find((t) => t.id === "bug")?.id ?? types[0]?.id ?? "",
    now,
  });
  const row = ({ happened: _, parkedFor, ...r }: (typeof queue)[number]): QueueRow => ({
    ...r,
    parkedFor: parkedFor === null ? null : `${project.key}-${parkedFor}`,
    promise: promises.get(r.id) ?? null,
    readers: readers.filter((p) => p.reportId === r.id).map((p) => p.name),
  });
  const keyed = (b: { id: string; number: number; title: string }) => ({
    id: b.id,
    key: `${project.key}-${b.number}`,
    title: b.title,
  });
  const openOf = (teamId: string) => openWork.find((o) => o.id === teamId)?.n ?? 0;
  const loadOf = new Map(loads.map((l) => [l.id, l.load]));
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    queue: queue.map(row),
    aside: aside.map(row),
    types: types.filter((t) => t.level >= 1).map(named),
    people: people.people
      .filter((p) => p.role !== "observer")
      .map((p) => ({ ...p, load: loadOf.get(p.id) ?? 0, limit: rules.triage.personLimit })),
    // Those that have most of the project's open work first.
    teams: people.teams.toSorted((a, b) => openOf(b.id) - openOf(a.id)),
    backlogTop: backlogTop.map(keyed),
    inWork: inWork.map(keyed),
    finishedLately: finishedLately.map(keyed),
    sprints: sprints.filter((s) => s.endsOn >= new Date(now).toISOString().slice(0, 10)).map(named),
    releases: releases.map(named),
    areas: areas.flatMap((a) => a.place ?? []),
    labels,
    rules: rules.triage,
    rulesVersion: rules.version,
    took: took.flatMap((t) => t.ms ?? []),
    desks,
    mayJudge: access.may("judge report"),
    maySetRules: access.may("edit workflow"),
    now,
  };
}

/** The labels of a project's items, those with most items first. */
async function labelsOf(viewer: Viewer, projectId: string): Promise<string[]> {
  const db = database();
  const label = sql<string>`jsonb_array_elements_text(${item.labels})`;
  const each = db
    .select({ label: label.as("label") })
    .from(item)
    .where(and(eq(item.projectId, projectId), isNull(item.withdrawnAt), seesItem(db, viewer)))
    .as("each");
  const rows = await db
    .select({ label: each.label })
    .from(each)
    .groupBy(each.label)
    .orderBy(desc(count()), asc(each.label))
    .limit(40);
  return rows.map((r) => r.label);
}

/** The desks that a person works at, with what waits there. */
async function otherDesks(viewer: Viewer): Promise<DeskView["desks"]> {
  const db = database();
  const projects = await visibleProjects(db, viewer);
  const mine = viewer.administrator
    ? null
    : await db
        .select({ id: membership.projectId })
        .from(membership)
        .where(and(eq(membership.personId, viewer.personId), ne(membership.role, "observer")));
  const waiting = await db
    .select({ id: report.projectId, n: count() })
    .from(report)
    .where(eq(report.status, "unjudged"))
    .groupBy(report.projectId);
  return projects
    .filter((p) => !mine || mine.some((m) => m.id === p.id))
    .map((p) => ({
      key: p.key,
      name: p.name,
      waiting: waiting.find((w) => w.id === p.id)?.n ?? 0,
    }));
}

/** Items of their own in some state, those that moved last first. */
const foundIn = (viewer: Viewer, projectId: string, where: SQL, most: number) =>
  database()
    .select({ id: item.id, number: item.number, title: item.title })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, projectId),
        isNull(item.withdrawnAt),
        sql`${itemType.level} >= 1`,
        where,
        seesItem(database(), viewer),
      ),
    )
    .orderBy(desc(item.enteredStateAt))
    .limit(most);

/** How many reports wait for a verdict; the number beside the Intake stop. */
export async function unjudgedCount(projectId: string): Promise<number> {
  const [row] = await database()
    .select({ n: count() })
    .from(report)
    .where(and(eq(report.projectId, projectId), eq(report.status, "unjudged")));
  return row.n;
}

/** One report with everything known around it. */
export async function readReport(
  viewer: Viewer,
  reportId: string,
  now = Date.now(),
): Promise<ReportView> {
  const db = database();
  const [row] = await db
    .select({ report, itemNumber: item.number, form: intakeForm.definition })
    .from(report)
    .leftJoin(item, eq(item.id, report.itemId))
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
  const {
    id,
    reference,
    title,
    happened,
    reproduce,
    place,
    mail,
    way,
    status,
    teamId,
    parkedUntil,
    declineReason,
    itemId,
    receivedAt,
    returnedAt,
    version,
    answers,
  } = row.report;
  const open = {
    id,
    reference,
    title,
    happened,
    reproduce,
    place,
    mail,
    way,
    status,
    teamId,
    parkedUntil,
    declineReason,
    itemId,
    receivedAt,
    returnedAt,
    version,
    answers,
  };
  const [
    messages,
    verdicts,
    files,
    tries,
    [{ followers }],
    similar,
    similarReports,
    earlier,
    deployed,
  ] = await Promise.all([
    db
      .select({
        kind: reportMessage.kind,
        body: reportMessage.body,
        at: reportMessage.at,
        author: person.name,
      })
      .from(reportMessage)
      .leftJoin(person, eq(person.id, reportMessage.authorId))
      .where(and(eq(reportMessage.reportId, reportId), isNull(reportMessage.takenBackAt)))
      .orderBy(asc(reportMessage.id)),
    db
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
      .orderBy(desc(reportVerdict.at)),
    db
      .select({
        id: reportFile.id,
        name: reportFile.name,
        mediaType: reportFile.mediaType,
        size: storedFile.size,
      })
      .from(reportFile)
      .innerJoin(storedFile, eq(storedFile.sha256, reportFile.sha256))
      .where(eq(reportFile.reportId, reportId))
      .orderBy(asc(reportFile.at), asc(reportFile.id)),
    db
      .select({ try: reproduction, by: person.name })
      .from(reproduction)
      .innerJoin(person, eq(person.id, reproduction.byId))
      .where(and(eq(reproduction.reportId, reportId), isNull(reproduction.takenBackAt)))
      .orderBy(asc(reproduction.at)),
    db
      .select({ followers: count() })
      .from(reportFollower)
      .where(eq(reportFollower.reportId, reportId)),
    similarItems(viewer, project, open),
    alikeReports(project.id, open),
    mail === ""
      ? []
      : db
          .select({
            id: report.id,
            reference: report.reference,
            title: report.title,
            status: report.status,
          })
          .from(report)
          .where(
            and(
              eq(report.projectId, project.id),
              eq(report.mail, mail),
              ne(report.id, reportId),
              seesReport(db, viewer),
            ),
          )
          .orderBy(desc(report.receivedAt))
          .limit(5),
    deployedLately(viewer, project, open, now),
  ]);
  return {
    report: open,
    typeId: row.form?.lands.typeId ?? null,
    files: files.map((f) => ({
      id: f.id,
      name: f.name,
      picture: isPicture(f.mediaType),
      size: f.size,
    })),
    messages,
    verdicts,
    tries: tries.map(({ try: t, by }) => ({
      id: t.id,
      by,
      at: t.at,
      tried: t.tried,
      version: t.version,
      result: t.result,
      note: t.note,
      mine: t.byId === viewer.personId,
    })),
    reproducible: reproducible(tries.map((t) => t.try.result)),
    followers,
    similar,
    similarReports,
    earlier,
    deployed,
    itemKey: row.itemNumber === null ? null : `${project.key}-${row.itemNumber}`,
  };
}

const DEPLOYED_SHOWN = 5;

/**
 * What went live lately: what is about the same place first, then what shares words with the
 * report, then the latest.
 */
async function deployedLately(
  viewer: Viewer,
  project: { id: string; key: string },
  open: ReportView["report"],
  now: number,
): Promise<ReportView["deployed"]> {
  const rows = await database()
    .select({
      id: item.id,
      number: item.number,
      title: item.title,
      description: item.description,
      place: item.place,
      at: item.finishedAt,
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        isNotNull(item.deliveredAt),
        sql`${itemType.level} >= 1`,
        gte(item.finishedAt, now - DEPLOYED_DAYS * DAY),
        seesItem(database(), viewer),
      ),
    )
    .orderBy(desc(item.finishedAt))
    .limit(100);
  const alike = new Map(
    mostSimilar(
      textOf(open),
      rows.map((r) => ({ id: r.id, title: r.title, body: r.description })),
      rows.length,
      { least: 0.05 },
    ).map((s) => [s.id, s.score]),
  );
  const samePlace = (place: string | null) =>
    place !== null && open.place !== "" && place.toLowerCase() === open.place.toLowerCase();
  return rows
    .map((r) => ({
      key: `${project.key}-${r.number}`,
      title: r.title,
      at: r.at!,
      samePlace: samePlace(r.place),
      near: (samePlace(r.place) ? 1 : 0) + (alike.get(r.id) ?? 0),
    }))
    .sort((a, b) => b.near - a.near || b.at - a.at)
    .slice(0, DEPLOYED_SHOWN)
    .map(({ near: _, ...shown }) => shown);
}

const SHOWN = 6;
/** The latest reports that wait are held against the one that is open. */
const REPORTS_HELD = 300;

type Open = ReportView["report"];
const textOf = (r: Pick<Open, "id" | "title" | "happened" | "place">): Text => ({
  id: r.id,
  title: r.title,
  body: `${r.happened} ${r.place}`,
  place: r.place,
});

async function similarItems(
  viewer: Viewer,
  project: { id: string; key: string; nextItemNumber: number },
  open: Open,
): Promise<SimilarItem[]> {
  const meaning = (await meaningsOf("report", [open.id])).get(open.id) ?? null;
  const candidates = await likelyItems(viewer, project, {
    title: open.title,
    body: open.happened,
    meaning,
  });
  const meanings = await meaningsOf(
    "item",
    candidates.map((c) => c.id),
  );
  const byId = new Map(candidates.map((c) => [c.id, c]));
  const texts = candidates.map((c) => textOfCandidate(c, meanings.get(c.id)));
  return mostSimilar({ ...textOf(open), meaning }, texts, SHOWN, {
    relations: await relationsOf(project.id),
  }).map(({ id, score, reasons }) => {
    const c = byId.get(id)!;
    return {
      id,
      key: `${project.key}-${c.number}`,
      title: c.title,
      stateName: c.stateName,
      progress: { stateKind: c.stateKind, stage: c.stage, outcome: c.outcome },
      score,
      reasons,
    };
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
      ),
    )
    .orderBy(desc(report.receivedAt))
    .limit(REPORTS_HELD);
  const byId = new Map(rows.map((r) => [r.id, r]));
  const meanings = await meaningsOf("report", [open.id, ...rows.map((r) => r.id)]);
  const read = (r: Open) => ({ ...textOf(r), meaning: meanings.get(r.id) });
  return mostSimilar(read(open), rows.map(read), 3, {
    least: 0.2,
    relations: await relationsOf(projectId),
  }).map(({ id, score, reasons }) => {
    const { reference, title, status, itemId } = byId.get(id)!;
    return { id, reference, title, status, itemId, score, reasons };
  });
}
