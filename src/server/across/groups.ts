import { and, eq, inArray } from "drizzle-orm";
import type { AcrossPlaces, AcrossRequest } from "@/core/across/contract";
import type { Instant } from "@/core/calendar/instant";
import { transact, type Transaction } from "@/db/connection";
import { project, projectGroup, projectGroupProject } from "@/db/schema";
import { visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notAllowed, notFound } from "../refused";
import { readPlaces } from "./places";

/** Makes, changes and puts away groups of projects, and tells all places as they are then. */
export async function changeGroups(
  viewer: Viewer,
  asked: AcrossRequest,
  now: Instant = Date.now(),
): Promise<AcrossPlaces> {
  await transact(async (tx) => {
    switch (asked.kind) {
      case "make":
        return makeGroup(tx, viewer, asked, now);
      case "change":
        return changeGroup(tx, viewer, asked);
      case "put away":
      case "bring back":
        return putAway(tx, viewer, asked.id, asked.kind === "put away" ? now : null);
    }
  });
  return readPlaces(viewer);
}

type Asked = Extract<AcrossRequest, { kind: "make" | "change" }>;

/** Anybody groups what they may see; nobody sees more by it. */
async function makeGroup(
  tx: Transaction,
  viewer: Viewer,
  { id, name, projectIds }: Asked,
  now: Instant,
): Promise<void> {
  const seen = await seenOf(tx, viewer, projectIds);
  const made = await tx
    .insert(projectGroup)
    .values({ id, name, madeBy: viewer.personId, madeAt: now })
    .onConflictDoNothing()
    .returning({ id: projectGroup.id });
  // The id is made by whoever asks, so asking twice makes one.
  if (made.length > 0)
    await tx
      .insert(projectGroupProject)
      .values(seen.map((projectId) => ({ groupId: id, projectId })));
}

/** What somebody else's eyes see of a group stays in it. */
async function changeGroup(
  tx: Transaction,
  viewer: Viewer,
  { id, name, projectIds }: Asked,
): Promise<void> {
  await lockGroup(tx, viewer, id);
  const seen = await seenOf(tx, viewer, projectIds);
  await tx.update(projectGroup).set({ name }).where(eq(projectGroup.id, id));
  const visible = tx.select({ id: project.id }).from(project).where(visibleTo(tx, viewer));
  await tx
    .delete(projectGroupProject)
    .where(
      and(eq(projectGroupProject.groupId, id), inArray(projectGroupProject.projectId, visible)),
    );
  await tx
    .insert(projectGroupProject)
    .values(seen.map((projectId) => ({ groupId: id, projectId })));
}

async function putAway(
  tx: Transaction,
  viewer: Viewer,
  id: string,
  at: Instant | null,
): Promise<void> {
  await lockGroup(tx, viewer, id);
  await tx.update(projectGroup).set({ putAwayAt: at }).where(eq(projectGroup.id, id));
}

/** @throws Refused where there is none, or somebody else looks after it */
async function lockGroup(tx: Transaction, viewer: Viewer, id: string): Promise<void> {
  const [found] = await tx
    .select({ madeBy: projectGroup.madeBy })
    .from(projectGroup)
    .where(eq(projectGroup.id, id))
    .for("update");
  if (!found) throw notFound("group");
  if (found.madeBy !== viewer.personId && !viewer.administrator)
    throw notAllowed("changing a group that somebody else made");
}

/** @throws Refused where one of the projects is none that this person may see */
async function seenOf(
  tx: Transaction,
  viewer: Viewer,
  projectIds: readonly string[],
): Promise<string[]> {
  const wanted = [...new Set(projectIds)];
  const rows = await tx
    .select({ id: project.id })
    .from(project)
    .where(and(inArray(project.id, wanted), visibleTo(tx, viewer)));
  if (rows.length < wanted.length) throw notFound("project");
  return wanted;
}
