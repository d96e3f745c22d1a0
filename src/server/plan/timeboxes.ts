import { and, asc, desc, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { Timebox } from "@/core/plan/membership";
import type { SprintsMeant } from "@/core/condition/sprint-word";
import { UNIT_LEVEL } from "@/core/item/item-type";
import {
  overlap,
  sprintStanding,
  sprintWords,
  type Listed,
  type PlannedSprint,
  type Release,
  type Sprint,
} from "@/core/plan/sprint";
import { transact, type Reader, type Transaction } from "@/db/connection";
import { itemType, release, releaseDate, sprint, timeboxProject } from "@/db/schema";
import { delayedAlert } from "@/core/intake/released-words";
import { tellFollowersOf } from "../alerts/tell-followers";
import { takeBackReleased, tellDelayed, tellReleased } from "../intake/released";
import { enterProject, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { countOpenInside } from "./timebox-totals";
import { plainChange, savedChange, type DesignChange } from "@/core/workflow/design-change";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import type { TimeboxRequest } from "@/core/plan/request";

/** That a sprint or a release takes items of one of some projects, as a condition on its id. */
export const openToAny = (
  reader: Reader,
  box: Timebox,
  id: AnyPgColumn,
  projectIds: readonly string[],
): SQL =>
  inArray(
    id,
    reader
      .select({ id: timeboxProject.boxId })
      .from(timeboxProject)
      .where(and(eq(timeboxProject.box, box), inArray(timeboxProject.projectId, [...projectIds]))),
  );

/** That a sprint or a release takes items of a project, as a condition on its id. */
export const openTo = (reader: Reader, box: Timebox, id: AnyPgColumn, projectId: string): SQL =>
  openToAny(reader, box, id, [projectId]);

const TABLES = { sprint, release };

/** Whether there is such a sprint or release, and it takes items of a project. */
export async function takesItems(
  reader: Reader,
  box: Timebox,
  boxId: string,
  projectId: string,
): Promise<boolean> {
  const table = TABLES[box];
  const [known] = await reader
    .select({ id: table.id })
    .from(table)
    .where(
      and(eq(table.id, boxId), openTo(reader, box, table.id, projectId), isNull(table.removedAt)),
    );
  return known !== undefined;
}

/** Whether a sprint was ended: nothing is planned into it any more. */
export async function hasEnded(reader: Reader, sprintId: string): Promise<boolean> {
  const [row] = await reader
    .select({ endedAt: sprint.endedAt })
    .from(sprint)
    .where(eq(sprint.id, sprintId));
  return row !== undefined && row.endedAt !== null;
}

/** The sprints of a project, in order of their days. */
export async function loadSprints(
  reader: Reader,
  projectId: string,
): Promise<Listed<PlannedSprint>[]> {
  const past = sql<boolean>`(${sprint.endedAt} is not null or ${sprint.endsOn} < (now() at time zone ${sprint.zone})::date)`;
  const rows = await reader
    .select({
      id: sprint.id,
      name: sprint.name,
      goal: sprint.goal,
      startsOn: sprint.startsOn,
      endsOn: sprint.endsOn,
      startedAt: sprint.startedAt,
      endedAt: sprint.endedAt,
      past,
    })
    .from(sprint)
    .where(and(openTo(reader, "sprint", sprint.id, projectId), isNull(sprint.removedAt)))
    .orderBy(asc(sprint.startsOn));
  return rows;
}

/** The releases of a project, those still to come first. */
export async function loadReleases(reader: Reader, projectId: string): Promise<Listed<Release>[]> {
  const rows = await reader
    .select()
    .from(release)
    .where(and(openTo(reader, "release", release.id, projectId), isNull(release.removedAt)))
    .orderBy(sql`${release.releasedAt} is not null`, asc(release.dueOn), desc(release.releasedAt));
  return rows.map(({ id, name, startsOn, dueOn, releasedAt, withdrawnAt }) => ({
    id,
    name,
    startsOn,
    dueOn,
    releasedAt,
    withdrawnAt,
    past: releasedAt !== null,
  }));
}

/** Which sprints are meant by words in a project. */
export async function sprintsNow(
  reader: Reader,
  project: { id: string; zone: string },
  now: number,
): Promise<SprintsMeant> {
  return sprintWords(await loadSprints(reader, project.id), isoDate(dayNumber(now, project.zone)));
}

/** Whose sprints and releases are edited, by whom. */
interface Editing {
  tx: Transaction;
  viewer: Viewer;
  project: ProjectRow;
  now: number;
}

/** Makes, changes or takes out a sprint or a release. One that items are in is not taken out. */
export async function editTimebox(
  viewer: Viewer,
  projectKey: string,
  request: TimeboxRequest,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "plan work",
    });
    const editing = { tx, viewer, project, now };
    for (const one of singly(request)) {
      const change = await changeOf(tx, one);
      if (one.kind === "sprint") await storeSprint(editing, one.sprint);
      else if (one.kind === "release") await storeRelease(editing, one.release);
      else await removeTimebox(editing, one);
      const of = { projectId: project.id, byId: viewer.personId, at: now };
      await keepDesignChange(tx, of, change);
    }
    await announceDesign(tx, project.id, { kind: "plan changed", data: {} });
  });
}

type Several = Extract<TimeboxRequest, { kind: "sprints" | "remove sprints" }>;
type Single = Exclude<TimeboxRequest, Several>;

/** What is asked of several at once, one after the other. */
function singly(request: TimeboxRequest): Single[] {
  if (request.kind === "sprints")
    return request.sprints.map((sprint) => ({ kind: "sprint", sprint }));
  if (request.kind === "remove sprints")
    return request.ids.map((id) => ({ kind: "remove sprint", id }));
  return [request];
}

const ownedBy = (of: typeof sprint | typeof release, { project }: Editing) =>
  and(eq(of.ownerKind, "project"), eq(of.ownerId, project.id));

const ownerOf = ({ project }: Editing) =>
  ({ ownerKind: "project", ownerId: project.id, zone: project.zone }) as const;

/** @throws Refused where it shares days with another one */
async function storeSprint(editing: Editing, values: Sprint): Promise<void> {
  const { tx, project } = editing;
  const others = (await loadSprints(tx, project.id)).filter(({ id }) => id !== values.id);
  const clash = overlap([...others, values]);
  if (clash)
    throw invalid(
      `${clash[0].name} and ${clash[1].name} share days.`,
      "One sprint follows the other: change the days of one.",
    );
  const stored = await tx
    .insert(sprint)
    .values({ ...values, ...ownerOf(editing) })
    .onConflictDoUpdate({
      target: sprint.id,
      set: { ...values, removedAt: null },
      setWhere: ownedBy(sprint, editing),
    })
    .returning({ id: sprint.id });
  if (stored.length === 0) throw notFound("sprint");
  await openTimebox(tx, "sprint", values.id, project.id);
}

/** What is not out after all has no notes that went out, and was not taken back. */
const NOT_OUT = { outNotes: null, withdrawnAt: null, withdrawnWhy: null };

/** @throws Refused where its day moves and nobody says why */
async function storeRelease(
  editing: Editing,
  { released, why = "", ...values }: Extract<Single, { kind: "release" }>["release"],
): Promise<void> {
  const { tx, viewer, project, now } = editing;
  const [before] = await tx.select().from(release).where(eq(release.id, values.id));
  const moves = before !== undefined && before.dueOn !== values.dueOn;
  if (moves && before.dueOn !== null && why === "")
    throw invalid("A day that moves needs a reason.", "Say in a few words why.");
  const releasedAt = released ? (before?.releasedAt ?? now) : null;
  const stored = await tx
    .insert(release)
    .values({ ...values, ...ownerOf(editing), releasedAt })
    .onConflictDoUpdate({
      target: release.id,
      set: { ...values, releasedAt, ...(released ? {} : NOT_OUT) },
      setWhere: ownedBy(release, editing),
    })
    .returning({ id: release.id });
  if (stored.length === 0) throw notFound("release");
  if (before && before.releasedAt === null && released) await tellReleased(tx, values, now);
  if (before && before.releasedAt !== null && !released)
    await takeBackReleased(tx, { ...before, releasedAt: before.releasedAt }, now);
  if (before && moves && releasedAt === null) {
    const { id, name, dueOn: to } = values;
    const delay = { id, name, from: before.dueOn, to };
    await tellDelayed(tx, delay, now);
    const said = delayedAlert(delay);
    if (said) await tellFollowersOf(tx, id, { said, byId: viewer.personId, now });
  }
  if (moves || (!before && values.dueOn !== null))
    await tx.insert(releaseDate).values({
      releaseId: values.id,
      at: now,
      byId: viewer.personId,
      from: before?.dueOn ?? null,
      to: values.dueOn,
      why,
    });
  await openTimebox(tx, "release", values.id, project.id);
}

/** @throws Refused where anything open is in it */
async function removeTimebox(
  editing: Editing,
  { kind, id }: Extract<Single, { kind: "remove sprint" | "remove release" }>,
): Promise<void> {
  const { tx, now } = editing;
  const [table, what] =
    kind === "remove sprint" ? ([sprint, "sprint"] as const) : ([release, "release"] as const);
  const n = await countOpenInside(tx, what, id);
  if (n > 0)
    throw invalid(
      `${n === 1 ? "1 open item is" : `${n} open items are`} in this ${what}.`,
      "Plan them elsewhere first.",
    );
  const gone = await tx
    .update(table)
    .set({ removedAt: now })
    .where(and(eq(table.id, id), ownedBy(table, editing)))
    .returning({ id: table.id });
  if (gone.length === 0) throw notFound(what);
}

/**
 * The sprint that a new item of a project goes into by itself: the one that runs, where the project
 * wants that and the item is of the level that is planned.
 */
export async function sprintForNew(
  tx: Transaction,
  project: ProjectRow,
  typeId: string,
  now = Date.now(),
): Promise<string | null> {
  if (!project.usesSprints || !project.newIntoSprint) return null;
  const [type] = await tx
    .select({ level: itemType.level })
    .from(itemType)
    .where(and(eq(itemType.projectId, project.id), eq(itemType.id, typeId)));
  if (type?.level !== UNIT_LEVEL) return null;
  const today = isoDate(dayNumber(now, project.zone));
  const all = await loadSprints(tx, project.id);
  return all.find((one) => sprintStanding(one, today) === "running")?.id ?? null;
}

/** What a request changes of the sprints and releases, in words. */
async function changeOf(tx: Transaction, request: Single): Promise<DesignChange | null> {
  const area = "sprints and releases";
  if (request.kind === "sprint") {
    const [before] = await tx.select().from(sprint).where(eq(sprint.id, request.sprint.id));
    const what = `the sprint “${request.sprint.name}”`;
    return savedChange({ area, what }, before ?? null, request.sprint, SPRINT_TOLD);
  }
  if (request.kind === "release") {
    const [before] = await tx.select().from(release).where(eq(release.id, request.release.id));
    const was = before ? { ...before, released: before.releasedAt !== null } : null;
    const { why: _, ...asked } = request.release;
    const { startsOn = before?.startsOn ?? null } = asked;
    const after = { ...asked, startsOn };
    const what = `the release “${request.release.name}”`;
    return savedChange({ area, what }, was, after, RELEASE_TOLD);
  }
  const [table, what] =
    request.kind === "remove sprint"
      ? ([sprint, "sprint"] as const)
      : ([release, "release"] as const);
  const [gone] = await tx.select({ name: table.name }).from(table).where(eq(table.id, request.id));
  return gone ? plainChange(area, `took out the ${what} “${gone.name}”`) : null;
}

const SPRINT_TOLD = { name: "name", goal: "goal", startsOn: "begins", endsOn: "ends" } as const;
const RELEASE_TOLD = { name: "name", startsOn: "begins", dueOn: "date", released: "out" } as const;

/** Lets a sprint or a release take items of a project. */
async function openTimebox(
  tx: Transaction,
  box: Timebox,
  boxId: string,
  projectId: string,
): Promise<void> {
  await tx.insert(timeboxProject).values({ box, boxId, projectId }).onConflictDoNothing();
}
