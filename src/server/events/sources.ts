import { randomBytes } from "node:crypto";
import { and, eq, isNull } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { type z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import { plainChange } from "@/core/workflow/design-change";
import type { NamedProject, SourcesView, SourceView } from "@/core/workflow/event-source";
import { type sourceBody } from "@/core/workflow/request";
import { database, transact } from "@/db/connection";
import { eventSource, attachedSource, membership, project } from "@/db/schema";
import { enterProject, membershipOf, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import { projectsOfSource, speaksFor } from "./speakers";

/** Who may post events to a project. Secrets are told once, when a source is made. */
export async function readSources(viewer: Viewer, projectKey: string): Promise<SourcesView> {
  const db = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader: db, viewer, where, action: "edit workflow" });
  const rows = await db
    .select({
      id: eventSource.id,
      name: eventSource.name,
      asksAt: eventSource.asksAt,
      createdAt: eventSource.createdAt,
      lastHeardAt: eventSource.lastHeardAt,
    })
    .from(eventSource)
    .where(speaksFor(access.project.id))
    .orderBy(eventSource.createdAt);
  const seen = await projectsSeen(viewer);
  const sources = await Promise.all(
    rows.map(async (row): Promise<SourceView> => {
      const [of, ...others] = await projectsOfSource(db, row.id);
      const alsoFor = others.filter(({ id }) => seen.has(id)).map(named);
      return { ...row, of: named(of), alsoFor };
    }),
  );
  return { sources, projects: [...seen.values()].filter(({ leads }) => leads).map(named) };
}

const named = ({ key, name }: NamedProject): NamedProject => ({ key, name });

/** The projects that somebody may see, and whether they may change how each works. */
async function projectsSeen(viewer: Viewer) {
  const db = database();
  const rows = await db
    .select({ project, membership: membership.role })
    .from(project)
    .leftJoin(membership, membershipOf(viewer))
    .where(visibleTo(db, viewer))
    .orderBy(project.key);
  return new Map(
    rows.map((row) => {
      const { id, key, name, putAwayAt } = row.project;
      const leads = viewer.administrator || row.membership === "lead";
      return [id, { key, name, leads: leads && putAwayAt === null }];
    }),
  );
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
  const where = { key: projectKey };
  const access = await enterProject({ reader: db, viewer, where, action: "edit workflow" });
  const projectId = access.project.id;
  if (edit.kind === "remove") {
    const gone = await db
      .update(eventSource)
      .set({ removedAt: now })
      .where(and(eq(eventSource.id, edit.id), eq(eventSource.projectId, projectId)))
      .returning({ id: eventSource.id });
    if (gone.length === 0) throw notFound("source");
    return { id: edit.id, secret: null };
  }
  if (edit.kind === "attach") {
    await attachSource(viewer, { ...edit, ownerId: projectId, now });
    return { id: edit.id, secret: null };
  }
  if (edit.kind === "asks") {
    const changed = await db
      .update(eventSource)
      .set({ asksAt: edit.asksAt })
      .where(
        and(
          eq(eventSource.id, edit.id),
          eq(eventSource.projectId, projectId),
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
    projectId,
    name: edit.name,
    asksAt: edit.asksAt ?? null,
    secret,
    createdBy: viewer.personId,
    createdAt: now,
  });
  return { id, secret };
}

/**
 * Lets a source of a project speak for another one too, or no more: a lead of both says so.
 * @throws Refused
 */
async function attachSource(
  viewer: Viewer,
  {
    id,
    ownerId,
    projectKey,
    on,
    now,
  }: { id: string; ownerId: string; projectKey: string; on: boolean; now: Instant },
): Promise<void> {
  await transact(async (tx) => {
    const where = { key: projectKey };
    const other = await enterProject({ reader: tx, viewer, where, action: "edit workflow" });
    const [source] = await tx
      .select({ name: eventSource.name, projectId: eventSource.projectId })
      .from(eventSource)
      .where(
        and(
          eq(eventSource.id, id),
          eq(eventSource.projectId, ownerId),
          isNull(eventSource.removedAt),
        ),
      )
      .for("update");
    if (!source || other.project.id === ownerId) throw notFound("source");
    const row = { sourceId: id, projectId: other.project.id };
    const set = { attachedBy: viewer.personId, attachedAt: now, detachedAt: on ? null : now };
    if (on)
      await tx
        .insert(attachedSource)
        .values({ ...row, ...set })
        .onConflictDoUpdate({
          target: [attachedSource.sourceId, attachedSource.projectId],
          set,
        });
    else
      await tx
        .update(attachedSource)
        .set({ detachedAt: now })
        .where(
          and(eq(attachedSource.sourceId, id), eq(attachedSource.projectId, other.project.id)),
        );
    const said = on ? "speaks for it" : "speaks for it no more";
    const change = plainChange("code", `${source.name} ${said}`);
    const by = { projectId: other.project.id, byId: viewer.personId, at: now };
    await keepDesignChange(tx, by, change);
    await announceDesign(tx, other.project.id, { kind: "project changed", data: {} });
  });
}
