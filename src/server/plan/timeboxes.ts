import { and, asc, desc, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { Timebox } from "@/core/plan/membership";
import type { SprintsMeant } from "@/core/condition/sprint-word";
import {
  overlap,
  sprintWords,
  type Listed,
  type PlannedSprint,
  type Release,
} from "@/core/plan/sprint";
import { transact, type Reader, type Transaction } from "@/db/connection";
import { release, releaseDate, sprint, timeboxProject } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { countOpenInside } from "./timebox-totals";
import { plainChange, savedChange, type DesignChange } from "@/core/workflow/design-change";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import type { TimeboxRequest } from "@/core/plan/request";

/** That a sprint or a release takes items of a project, as a condition on its id. */
export const openTo = (reader: Reader, box: Timebox, id: AnyPgColumn, projectId: string): SQL =>
  inArray(
    id,
    reader
      .select({ id: timeboxProject.boxId })
      .from(timeboxProject)
      .where(and(eq(timeboxProject.box, box), eq(timeboxProject.projectId, projectId))),
  );

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
  return rows.map(({ id, name, dueOn, releasedAt }) => ({
    id,
    name,
    dueOn,
    releasedAt,
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
    const projectId = project.id;
    const owner = { ownerKind: "project", ownerId: projectId } as const;
    const owned = (of: typeof sprint | typeof release) =>
      and(eq(of.ownerKind, owner.ownerKind), eq(of.ownerId, owner.ownerId));
    const change = await changeOf(tx, request);
    if (request.kind === "sprint") {
      const clash = overlap([
        ...(await loadSprints(tx, projectId)).filter((s) => s.id !== request.sprint.id),
        request.sprint,
      ]);
      if (clash)
        throw invalid(
          `${clash[0].name} and ${clash[1].name} share days.`,
          "One sprint follows the other: change the days of one.",
        );
      const stored = await tx
        .insert(sprint)
        .values({ ...request.sprint, ...owner, zone: project.zone })
        .onConflictDoUpdate({
          target: sprint.id,
          set: request.sprint,
          setWhere: owned(sprint),
        })
        .returning({ id: sprint.id });
      if (stored.length === 0) throw notFound("sprint");
      await openTimebox(tx, "sprint", request.sprint.id, projectId);
    } else if (request.kind === "release") {
      const { released, why = "", ...values } = request.release;
      const [before] = await tx.select().from(release).where(eq(release.id, values.id));
      const moves = before !== undefined && before.dueOn !== values.dueOn;
      if (moves && before.dueOn !== null && why === "")
        throw invalid("A day that moves needs a reason.", "Say in a few words why.");
      const releasedAt = released ? (before?.releasedAt ?? now) : null;
      const stored = await tx
        .insert(release)
        .values({ ...values, ...owner, zone: project.zone, releasedAt })
        .onConflictDoUpdate({
          target: release.id,
          set: { ...values, releasedAt },
          setWhere: owned(release),
        })
        .returning({ id: release.id });
      if (stored.length === 0) throw notFound("release");
      if (moves || (!before && values.dueOn !== null))
        await tx.insert(releaseDate).values({
          releaseId: values.id,
          at: now,
          byId: viewer.personId,
          from: before?.dueOn ?? null,
          to: values.dueOn,
          why,
        });
      await openTimebox(tx, "release", values.id, projectId);
    } else {
      const [table, what] =
        request.kind === "remove sprint"
          ? ([sprint, "sprint"] as const)
          : ([release, "release"] as const);
      const n = await countOpenInside(tx, what, request.id);
      if (n > 0)
        throw invalid(
          `${n === 1 ? "1 open item is" : `${n} open items are`} in this ${what}.`,
          "Plan them elsewhere first.",
        );
      const gone = await tx
        .update(table)
        .set({ removedAt: now })
        .where(and(eq(table.id, request.id), owned(table)))
        .returning({ id: table.id });
      if (gone.length === 0) throw notFound(what);
    }
    await keepDesignChange(tx, { projectId, byId: viewer.personId, at: now }, change);
    await announceDesign(tx, projectId, { kind: "plan changed", data: {} });
  });
}

/** What a request changes of the sprints and releases, in words. */
async function changeOf(tx: Transaction, request: TimeboxRequest): Promise<DesignChange | null> {
  const area = "sprints and releases";
  if (request.kind === "sprint") {
    const [before] = await tx.select().from(sprint).where(eq(sprint.id, request.sprint.id));
    const what = `the sprint “${request.sprint.name}”`;
    return savedChange({ area, what }, before ?? null, request.sprint, SPRINT_TOLD);
  }
  if (request.kind === "release") {
    const [before] = await tx.select().from(release).where(eq(release.id, request.release.id));
    const was = before ? { ...before, released: before.releasedAt !== null } : null;
    const { why: _, ...after } = request.release;
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
const RELEASE_TOLD = { name: "name", dueOn: "date", released: "out" } as const;

/** Lets a sprint or a release take items of a project. */
async function openTimebox(
  tx: Transaction,
  box: Timebox,
  boxId: string,
  projectId: string,
): Promise<void> {
  await tx.insert(timeboxProject).values({ box, boxId, projectId }).onConflictDoNothing();
}
