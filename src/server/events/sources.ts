import { randomBytes } from "node:crypto";
import { and, eq, isNull } from "drizzle-orm";
import { type z } from "zod";
import { database } from "@/db/connection";
import { eventSource } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { v7 as newId } from "uuid";
import { type sourceBody } from "@/core/workflow/request";
import type { SourceView } from "@/core/workflow/event-source";

/** Who may post events to a project. Secrets are told once, when a source is made. */
export async function readSources(viewer: Viewer, projectKey: string): Promise<SourceView[]> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "edit workflow",
  });
  return db
    .select({
      id: eventSource.id,
      name: eventSource.name,
      asksAt: eventSource.asksAt,
      createdAt: eventSource.createdAt,
      lastHeardAt: eventSource.lastHeardAt,
    })
    .from(eventSource)
    .where(and(eq(eventSource.projectId, project.id), isNull(eventSource.removedAt)))
    .orderBy(eventSource.createdAt);
}

const SECRET_BYTES = 32;

/**
 * Adds a source, with the secret that its events are signed with, takes one out, or says where it takes
 * requests.
 */
export async function editSource(
  viewer: Viewer,
  projectKey: string,
  edit: z.input<typeof sourceBody>,
  now = Date.now(),
): Promise<{ id: string; secret: string | null }> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "edit workflow",
  });
  if (edit.kind === "remove") {
    const gone = await db
      .update(eventSource)
      .set({ removedAt: now })
      .where(and(eq(eventSource.id, edit.id), eq(eventSource.projectId, project.id)))
      .returning({ id: eventSource.id });
    if (gone.length === 0) throw notFound("source");
    return { id: edit.id, secret: null };
  }
  if (edit.kind === "asks") {
    const changed = await db
      .update(eventSource)
      .set({ asksAt: edit.asksAt })
      .where(
        and(
          eq(eventSource.id, edit.id),
          eq(eventSource.projectId, project.id),
          isNull(eventSource.removedAt),
        ),
      )
      .returning({ id: eventSource.id });
    if (changed.length === 0) throw notFound("source");
    return { id: edit.id, secret: null };
  }
  const id = newId();
  const secret = `whsec_${randomBytes(SECRET_BYTES).toString("base64")}`;
  await db.insert(eventSource).values({
    id,
    projectId: project.id,
    name: edit.name,
    asksAt: edit.asksAt ?? null,
    secret,
    createdBy: viewer.personId,
    createdAt: now,
  });
  return { id, secret };
}
