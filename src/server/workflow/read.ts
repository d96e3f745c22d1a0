import { desc, eq, inArray, sql } from "drizzle-orm";
import type { Column } from "@/core/board/column";
import type { Workflow } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import { item, person, workflowVersion } from "@/db/schema";
import { loadBoard } from "../board/read";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { projectTypes } from "./load";

export interface DesignView {
  project: { id: string; key: string; name: string; zone: string };
  board: { id: string; name: string; version: number };
  columns: Column[];
  workflows: (Workflow & { typeNames: string[] })[];
  /** Items in each state now. */
  counts: Record<string, number>;
  versions: { workflowId: string; version: number; at: number; by: string | null; summary: string }[];
  mayEdit: boolean;
}

/** The process of a project as Design shows it. */
export async function readDesign(viewer: Viewer, projectKey: string): Promise<DesignView> {
  const db = database();
  const access = await enterProject(db, viewer, { key: projectKey }, "read project");
  const { project } = access;
  const [{ board, columns }, { types, workflows }] = await Promise.all([loadBoard(db, project.id), projectTypes(db, project.id)]);
  const ids = workflows.map((w) => w.id);
  const [counts, versions] = await Promise.all([
    db.select({ stateId: item.stateId, n: sql<number>`count(*)::int` }).from(item).where(sql`${item.projectId} = ${project.id} and ${item.withdrawnAt} is null`).groupBy(item.stateId),
    db
      .select({ workflowId: workflowVersion.workflowId, version: workflowVersion.version, at: workflowVersion.at, by: person.name, summary: workflowVersion.summary })
      .from(workflowVersion)
      .leftJoin(person, eq(person.id, workflowVersion.byId))
      .where(inArray(workflowVersion.workflowId, ids))
      .orderBy(desc(workflowVersion.at))
      .limit(30),
  ]);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    board: { id: board.id, name: board.name, version: board.version },
    columns,
    workflows: workflows.map((w) => ({ ...w, typeNames: types.filter((t) => t.workflowId === w.id).map((t) => t.name) })),
    counts: Object.fromEntries(counts.map((c) => [c.stateId, c.n])),
    versions,
    mayEdit: access.may("edit workflow"),
  };
}
