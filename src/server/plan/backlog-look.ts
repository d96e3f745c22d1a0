import { and, eq } from "drizzle-orm";
import { storedBacklogLook, type BacklogLook } from "@/core/plan/backlog-look";
import { database, type Reader } from "@/db/connection";
import { backlogLook } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";

/** How somebody looks at the backlog of a project. */
export async function readBacklogLook(
  reader: Reader,
  { personId }: Viewer,
  projectId: string,
): Promise<BacklogLook> {
  const [row] = await reader
    .select({ look: backlogLook.look })
    .from(backlogLook)
    .where(and(eq(backlogLook.personId, personId), eq(backlogLook.projectId, projectId)));
  return storedBacklogLook(row?.look);
}

/** Keeps how somebody looks at the backlog of a project; nobody else sees it so. @throws Refused */
export async function keepBacklogLook(
  viewer: Viewer,
  projectKey: string,
  look: BacklogLook,
): Promise<void> {
  const reader = database();
  const where = { key: projectKey };
  const { project } = await enterProject({ reader, viewer, where, action: "read project" });
  const row = { personId: viewer.personId, projectId: project.id, look };
  await reader
    .insert(backlogLook)
    .values(row)
    .onConflictDoUpdate({ target: [backlogLook.personId, backlogLook.projectId], set: { look } });
}
