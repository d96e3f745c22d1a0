import { and, desc, eq, inArray, isNotNull, sql } from "drizzle-orm";
import type { BoardDesign, DesignView } from "@/core/workflow/design-view";
import { workflowSchema } from "@/core/workflow/definition";
import type { Workflow } from "@/core/workflow/workflow";
import { database, type Reader } from "@/db/connection";
import { item, person, workflow, workflowDraft, workflowVersion } from "@/db/schema";
import { projectLimits } from "../board/board-limits";
import { limitChanges } from "../board/covering-limits";
import { loadBoard, loadBoards, loadColumns } from "../board/load";
import { withLimitsInForce } from "../board/limits";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { loadProjectWorkflows, projectTypes, publishedWorkflow } from "./load";
import { projectPeople } from "./people";
import { checkSurroundings } from "./surroundings";

/** So many versions are listed, the newest of all workflows together. */
const MOST_VERSIONS = 200;

/** The process of a project as Design shows it. Drafts are only for those who may change it. */
export async function readDesign(viewer: Viewer, projectKey: string): Promise<DesignView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { project } = access;
  const mayEdit = access.may("edit workflow");
  const [{ board, columns }, { types }, running, around, people] = await Promise.all([
    loadBoard(db, project.id),
    projectTypes(db, project.id),
    runningWorkflows(db, project.id),
    checkSurroundings(db, project.id),
    projectPeople(db, project.id),
  ]);
  const ids = running.map((w) => w.id);
  const [limits, changes, counts, versions, removed, drafts] = await Promise.all([
    projectLimits({ reader: db, project, now: Date.now() }),
    limitChanges(db, project.id),
    db
      .select({ stateId: item.stateId, typeId: item.typeId, n: sql<number>`count(*)::int` })
      .from(item)
      .where(sql`${item.projectId} = ${project.id} and ${item.withdrawnAt} is null`)
      .groupBy(item.stateId, item.typeId),
    db
      .select({
        workflowId: workflowVersion.workflowId,
        version: workflowVersion.version,
        at: workflowVersion.at,
        by: person.name,
        note: workflowVersion.note,
        summary: workflowVersion.summary,
      })
      .from(workflowVersion)
      .leftJoin(person, eq(person.id, workflowVersion.byId))
      .where(inArray(workflowVersion.workflowId, ids))
      .orderBy(desc(workflowVersion.at))
      .limit(MOST_VERSIONS),
    db
      .select({ id: workflow.id, name: workflow.name })
      .from(workflow)
      .where(and(eq(workflow.projectId, project.id), isNotNull(workflow.removedAt)))
      .orderBy(workflow.name),
    mayEdit
      ? db
          .select({ draft: workflowDraft, by: person.name })
          .from(workflowDraft)
          .innerJoin(person, eq(person.id, workflowDraft.byId))
          .where(inArray(workflowDraft.workflowId, ids))
      : [],
  ]);
  return {
    project: {
      id: project.id,
      key: project.key,
      name: project.name,
      zone: project.zone,
      visibility: project.visibility,
      expectation: { days: project.expectationDays, share: project.expectationShare },
    },
    board: { id: board.id, name: board.name, version: board.version },
    columns,
    boards: await boardDesigns(db, project.id),
    workflows: running.map((w) => ({
      ...w,
      typeNames: types
        .filter((t) => t.workflowId === w.id && t.removedAt === null)
        .map((t) => t.name),
    })),
    drafts: drafts.map(({ draft, by }) => ({
      workflowId: draft.workflowId,
      // A draft that cannot be read any more must not close the door to the process: it begins anew
      // from what runs.
      definition:
        workflowSchema.safeParse(draft.definition).data ??
        running.find((w) => w.id === draft.workflowId)!,
      baseVersion: draft.baseVersion,
      revision: draft.revision,
      by,
      at: draft.at,
    })),
    around,
    people,
    types,
    counts: sums(counts, (c) => c.stateId),
    limits,
    limitChanges: changes,
    levelNames: project.levelNames,
    defaultSize: project.defaultSize,
    countsByType: Object.fromEntries(
      types.map((t) => [
        t.id,
        sums(
          counts.filter((c) => c.typeId === t.id),
          (c) => c.stateId,
        ),
      ]),
    ),
    versions,
    removed,
    mayEdit,
  };
}

/** The workflows of a project as they run, with the limits that are in force. */
async function runningWorkflows(reader: Reader, projectId: string): Promise<Workflow[]> {
  const workflows = await loadProjectWorkflows(reader, projectId);
  return Promise.all(workflows.map((w) => withLimitsInForce(reader, w)));
}

async function boardDesigns(reader: Reader, projectId: string): Promise<BoardDesign[]> {
  const boards = await loadBoards(reader, projectId);
  return Promise.all(
    boards.map(async (b) => ({
      ...b,
      columns: (await loadColumns(reader, b.id)).map(({ id, stage, name, part, stateIds }) => ({
        id,
        stage,
        name,
        part,
        stateIds,
      })),
    })),
  );
}

function sums<R extends { n: number }>(
  rows: readonly R[],
  keyOf: (row: R) => string,
): Record<string, number> {
  const sum: Record<string, number> = {};
  for (const row of rows) sum[keyOf(row)] = (sum[keyOf(row)] ?? 0) + row.n;
  return sum;
}

/** A version of a workflow as it was published. */
export async function readVersion(
  viewer: Viewer,
  projectKey: string,
  query: { workflow: string; version: number },
): Promise<Workflow> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const [known] = await db
    .select({ projectId: workflow.projectId })
    .from(workflow)
    .innerJoin(workflowVersion, eq(workflowVersion.workflowId, workflow.id))
    .where(
      sql`${workflow.id} = ${query.workflow} and ${workflowVersion.version} = ${query.version}`,
    );
  if (known?.projectId !== project.id) throw notFound("version");
  return publishedWorkflow(db, query.workflow, query.version);
}
