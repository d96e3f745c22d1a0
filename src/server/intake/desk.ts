import { and, asc, count, desc, eq, gte, inArray, isNotNull, ne, sql, type SQL } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { DeskView, QueueRow } from "@/core/intake/desk-view";
import { partsTaken } from "@/core/intake/part-suggestion";
import { soundsLikeHole, textOfReport } from "@/core/intake/security-words";
import type { ReturnReason } from "@/core/intake/report-history";
import type { IntakeRules } from "@/core/intake/promises-view";
import { database } from "@/db/connection";
import { deskPresence, membership, person, report, reportEvent, reportVerdict } from "@/db/schema";
import { loadTerms } from "../item/terms/load";
import { enterProject, visibleProjects } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { projectTypes } from "../workflow/load";
import { areasOf, backlogTop, finishedLately, inWork, openWork, seenKeysOf } from "./desk-items";
import { givenLately } from "./found-reports";
import { queuePromises, typeOfReports } from "./report-promises";
import { loadRules } from "./rules";

/** Why a report came back last. */
const lastReturn = () =>
  database()
    .select({ why: sql<ReturnReason | null>`${reportEvent.data} ->> 'why'` })
    .from(reportEvent)
    .where(and(eq(reportEvent.reportId, report.id), eq(reportEvent.kind, "returned")))
    .orderBy(desc(reportEvent.seq))
    .limit(1);

const queueColumns = () => ({
  id: report.id,
  reference: report.reference,
  title: report.title,
  place: report.place,
  receivedAt: report.receivedAt,
  returnedAt: report.returnedAt,
  status: report.status,
  parkedUntil: report.parkedUntil,
  parkedItemId: report.parkedItemId,
  way: report.way,
  teamId: report.teamId,
  parts: report.parts,
  version: report.version,
  happened: report.happened,
  returnedWhy: sql<ReturnReason | null>`${lastReturn()}`,
});

/** Whoever said so in the last seconds still has a report open. */
export const PRESENT_MS = 40_000;
const TAKEN_FOR_PACE = 60;

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
  const [
    { types },
    people,
    rules,
    sprints,
    releases,
    open,
    listed,
    top,
    working,
    finished,
    areas,
    took,
    given,
    desks,
  ] = await Promise.all([
    projectTypes(db, project.id),
    roster(db, project.id),
    loadRules(db, project.id),
    loadSprints(db, project.id),
    loadReleases(db, project.id),
    openWork(project.id),
    listReports(viewer, project.id, now),
    backlogTop(viewer, project),
    inWork(viewer, project),
    finishedLately(viewer, project),
    areasOf(viewer, project.id),
    paceOf(project.id),
    givenLately(viewer, project.id, now),
    otherDesks(viewer),
  ]);
  const waiting = await queueRows(listed, { viewer, project, rules, types, now });
  const openOf = (teamId: string) => open.byTeam.get(teamId) ?? 0;
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    ...waiting,
    types: types.filter((t) => t.level >= 1).map(named),
    people: people.people
      .filter((p) => p.role !== "observer")
      .map((p) => ({
        ...p,
        load: open.byPerson.get(p.id) ?? 0,
        limit: rules.triage.personLimit,
      })),
    // Those that have most of the project's open work first.
    teams: people.teams.toSorted((a, b) => openOf(b.id) - openOf(a.id)),
    backlogTop: top,
    inWork: working,
    finishedLately: finished,
    sprints: sprints.filter((sprint) => !sprint.past).map(named),
    releases: releases.filter((release) => !release.past).map(named),
    areas,
    rules: rules.triage,
    rulesVersion: rules.version,
    took,
    given,
    desks,
    mayJudge: access.may("judge report"),
    maySetRules: access.may("edit workflow"),
    now,
  };
}

interface Listed {
  queue: ReportRow[];
  aside: ReportRow[];
  readers: { reportId: string; name: string }[];
}

/**
 * What waits for a verdict, and what was put aside until something comes, oldest first; and who
 * else reads which of it.
 */
async function listReports(viewer: Viewer, projectId: string, now: Instant): Promise<Listed> {
  const [queue, aside, readers] = await Promise.all([
    reportsWhere(projectId, eq(report.status, "unjudged")),
    reportsWhere(projectId, inArray(report.status, ["asked", "parked"])),
    othersReading(viewer, projectId, now),
  ]);
  return { queue, aside, readers };
}

const reportsWhere = (projectId: string, where: SQL) =>
  database()
    .select(queueColumns())
    .from(report)
    .where(and(eq(report.projectId, projectId), where))
    .orderBy(asc(report.receivedAt), asc(report.id));

type ReportRow = Awaited<ReturnType<typeof reportsWhere>>[number];

/** The same as the desk shows it: with what was promised next, and what a report is parked for. */
async function queueRows(
  { queue, aside, readers }: Listed,
  {
    viewer,
    project,
    rules,
    types,
    now,
  }: {
    viewer: Viewer;
    project: { id: string; key: string; zone: string };
    rules: IntakeRules;
    types: { id: string; level: number }[];
    now: Instant;
  },
): Promise<{ queue: QueueRow[]; aside: QueueRow[] }> {
  const reports = [...queue, ...aside];
  const [terms, promises, keys] = await Promise.all([
    loadTerms(database(), project.id),
    queuePromises({
      reader: database(),
      rules,
      project,
      reports,
      type: typeOfReports(types),
      now,
    }),
    seenKeysOf(
      viewer,
      reports.map((r) => r.parkedItemId),
    ),
  ]);
  const row = ({ happened, parkedItemId, ...r }: ReportRow): QueueRow => {
    return {
      ...r,
      parts: partsTaken(r, terms),
      parkedFor: parkedItemId === null ? null : (keys.get(parkedItemId) ?? null),
      hole: soundsLikeHole(textOfReport({ title: r.title, happened })) !== null,
      promise: promises.get(r.id) ?? null,
      readers: readers.filter((p) => p.reportId === r.id).map((p) => p.name),
    };
  };
  return { queue: queue.map(row), aside: aside.map(row) };
}

/** Who else has a report of the desk open just now. */
const othersReading = (viewer: Viewer, projectId: string, now: Instant) =>
  database()
    .select({ reportId: deskPresence.reportId, name: person.name })
    .from(deskPresence)
    .innerJoin(person, eq(person.id, deskPresence.personId))
    .innerJoin(report, eq(report.id, deskPresence.reportId))
    .where(
      and(
        eq(report.projectId, projectId),
        ne(deskPresence.personId, viewer.personId),
        gte(deskPresence.at, now - PRESENT_MS),
      ),
    );

/** How long the latest verdicts of a project took, in milliseconds. */
async function paceOf(projectId: string): Promise<number[]> {
  const rows = await database()
    .select({ ms: reportVerdict.tookMs })
    .from(reportVerdict)
    .innerJoin(report, eq(report.id, reportVerdict.reportId))
    .where(and(eq(report.projectId, projectId), isNotNull(reportVerdict.tookMs)))
    .orderBy(desc(reportVerdict.at))
    .limit(TAKEN_FOR_PACE);
  return rows.flatMap((r) => r.ms ?? []);
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

/** How many reports wait for a verdict; the number beside the Intake stop. */
export async function unjudgedCount(projectId: string): Promise<number> {
  const [row] = await database()
    .select({ n: count() })
    .from(report)
    .where(and(eq(report.projectId, projectId), eq(report.status, "unjudged")));
  return row.n;
}
