import { and, asc, desc, eq, isNull, ne, sql } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { SprintWord } from "@/core/condition/condition";
import { overlap, sprintWords, type Release, type Sprint } from "@/core/plan/sprint";
import { z } from "zod";
import { releaseSchema, sprintSchema } from "@/core/plan/sprint";
import { transact, type Reader } from "@/db/connection";
import { item, release, sprint } from "@/db/schema";
import { enterProject, hiddenFrom } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { announceDesign } from "../workflow/announce";

/** The sprints of a project, in order of their days. */
export async function loadSprints(reader: Reader, projectId: string): Promise<Sprint[]> {
  const rows = await reader
    .select()
    .from(sprint)
    .where(and(eq(sprint.projectId, projectId), isNull(sprint.removedAt)))
    .orderBy(asc(sprint.startsOn));
  return rows.map(({ id, name, goal, startsOn, endsOn }) => ({ id, name, goal, startsOn, endsOn }));
}

/** The releases of a project, those still to come first. */
export async function loadReleases(reader: Reader, projectId: string): Promise<Release[]> {
  const rows = await reader
    .select()
    .from(release)
    .where(and(eq(release.projectId, projectId), isNull(release.removedAt)))
    .orderBy(sql`${release.releasedAt} is not null`, asc(release.dueOn), desc(release.releasedAt));
  return rows.map(({ id, name, dueOn, releasedAt }) => ({ id, name, dueOn, releasedAt }));
}

/** What stands in a sprint or release and counts there, without what it is being told. */
export interface HiddenInBox {
  items: number;
  points: number;
}

/**
 * Of the open items of each sprint and release of a project, those that a person may not see:
 * totals count them all the same. By the box's id.
 */
export async function hiddenInBoxes(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
): Promise<Record<string, HiddenInBox>> {
  if (viewer.administrator) return {};
  const rows = await reader
    .select({ sprintId: item.sprintId, releaseId: item.releaseId, estimate: item.estimate })
    .from(item)
    .where(
      and(
        eq(item.projectId, projectId),
        isNull(item.withdrawnAt),
        isNull(item.parentId),
        ne(item.stateKind, "finished"),
        hiddenFrom(reader, viewer),
      ),
    );
  const totals: Record<string, HiddenInBox> = {};
  for (const { sprintId, releaseId, estimate } of rows)
    for (const id of [sprintId, releaseId]) {
      if (id === null) continue;
      totals[id] ??= { items: 0, points: 0 };
      totals[id].items += 1;
      totals[id].points += estimate ?? 0;
    }
  return totals;
}

/** What the words current, next and previous sprint stand for in a project. */
export async function sprintsNow(
  reader: Reader,
  project: { id: string; zone: string },
  now: number,
): Promise<Record<SprintWord, string | null>> {
  return sprintWords(await loadSprints(reader, project.id), isoDate(dayNumber(now, project.zone)));
}

export const boxBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("sprint"), sprint: sprintSchema }),
  z.object({ kind: z.literal("release"), release: releaseSchema }),
  z.object({ kind: z.literal("remove sprint"), id: z.string().min(1).max(64) }),
  z.object({ kind: z.literal("remove release"), id: z.string().min(1).max(64) }),
]);
export type BoxRequest = z.infer<typeof boxBody>;

/** Makes, changes or takes out a sprint or a release. One that items are in is not taken out. */
export async function editBox(
  viewer: Viewer,
  projectKey: string,
  request: BoxRequest,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject(tx, viewer, { key: projectKey }, "plan work");
    const projectId = project.id;
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
        .values({ ...request.sprint, projectId })
        .onConflictDoUpdate({
          target: sprint.id,
          set: request.sprint,
          setWhere: eq(sprint.projectId, projectId),
        })
        .returning({ id: sprint.id });
      if (stored.length === 0) throw notFound("sprint");
    } else if (request.kind === "release") {
      const { released, ...values } = request.release;
      const [before] = await tx.select().from(release).where(eq(release.id, values.id));
      const releasedAt = released ? (before?.releasedAt ?? now) : null;
      const stored = await tx
        .insert(release)
        .values({ ...values, projectId, releasedAt })
        .onConflictDoUpdate({
          target: release.id,
          set: { ...values, releasedAt },
          setWhere: eq(release.projectId, projectId),
        })
        .returning({ id: release.id });
      if (stored.length === 0) throw notFound("release");
    } else {
      const [table, column, what] =
        request.kind === "remove sprint"
          ? ([sprint, item.sprintId, "sprint"] as const)
          : ([release, item.releaseId, "release"] as const);
      const [{ n }] = await tx
        .select({ n: sql<number>`count(*)::int` })
        .from(item)
        .where(
          and(
            eq(column, request.id),
            isNull(item.withdrawnAt),
            sql`${item.stateKind} <> 'finished'`,
          ),
        );
      if (n > 0)
        throw invalid(
          `${n === 1 ? "1 open item is" : `${n} open items are`} in this ${what}.`,
          "Plan them elsewhere first.",
        );
      const gone = await tx
        .update(table)
        .set({ removedAt: now })
        .where(and(eq(table.id, request.id), eq(table.projectId, projectId)))
        .returning({ id: table.id });
      if (gone.length === 0) throw notFound(what);
    }
    await announceDesign(tx, projectId, { kind: "plan changed", data: {} });
  });
}
