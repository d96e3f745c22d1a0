import { randomUUID } from "node:crypto";
import { and, eq, gte, inArray, max, sql } from "drizzle-orm";
import { partOf } from "@/core/board/column";
import { editWorkflow, type WorkflowEdit } from "@/core/workflow/edit";
import { isRefusal, refuse } from "@/core/workflow/refusal";
import type { Workflow } from "@/core/workflow/workflow";
import { transact, type Transaction } from "@/db/connection";
import { board, boardColumn, columnState, outbox, state, workflow, workflowVersion } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound, Refused } from "../refused";
import { loadWorkflows } from "./load";
import type { WorkflowEditRequest } from "./request";

/**
 * Changes a workflow and announces it to open boards. States keep their ids, so items and their past stay where they
 * are; every version is kept as it was.
 */
export async function editProjectWorkflow(viewer: Viewer, request: WorkflowEditRequest): Promise<{ version: number; summary: string }> {
  return transact(async (tx) => {
    const [head] = await tx.select().from(workflow).where(eq(workflow.id, request.workflowId)).for("update");
    if (!head) throw notFound("workflow");
    const { project } = await enterProject(tx, viewer, { id: head.projectId }, "edit workflow");
    if (head.version !== request.seenVersion)
      throw new Refused(refuse("conflict", "Somebody else has changed this workflow meanwhile.", "Look at it as it is now, then make your change again."));
    const before = (await loadWorkflows(tx, [head.id])).get(head.id)!;
    const edit: WorkflowEdit =
      request.edit.kind === "add state" ? { ...request.edit, id: randomUUID(), transitionIds: [randomUUID(), randomUUID()] } : request.edit;
    const result = editWorkflow(before, edit);
    if (isRefusal(result)) throw new Refused(result);
    await storeWorkflow(tx, result.workflow);
    await tx.insert(workflowVersion).values({
      workflowId: head.id,
      version: result.workflow.version,
      definition: result.workflow,
      at: Date.now(),
      byId: viewer.personId,
      summary: result.summary,
    });
    if (edit.kind === "add state" && request.edit.kind === "add state" && request.edit.onBoard) await addColumn(tx, project.id, edit);
    if (edit.kind === "rename state") await renameColumns(tx, before, edit);
    await announceDesign(tx, project.id);
    return { version: result.workflow.version, summary: result.summary };
  });
}

async function storeWorkflow(tx: Transaction, after: Workflow): Promise<void> {
  await tx.update(workflow).set({ version: after.version }).where(eq(workflow.id, after.id));
  for (const { id, name, kind, stage, position } of after.states)
    await tx
      .insert(state)
      .values({ id, name, kind, stage, position, workflowId: after.id })
      .onConflictDoUpdate({ target: state.id, set: { name, kind, stage, position } });
}

/** A column of its own for a new state, right after the column of the state before it. */
async function addColumn(tx: Transaction, projectId: string, edit: Extract<WorkflowEdit, { kind: "add state" }>): Promise<void> {
  const [head] = await tx.select().from(board).where(eq(board.projectId, projectId)).orderBy(board.id).limit(1);
  if (!head) return;
  const [next] = await tx
    .select({ position: boardColumn.position })
    .from(columnState)
    .innerJoin(boardColumn, eq(boardColumn.id, columnState.columnId))
    .where(and(eq(columnState.boardId, head.id), eq(columnState.stateId, edit.before)));
  const [{ last }] = await tx.select({ last: max(boardColumn.position) }).from(boardColumn).where(eq(boardColumn.boardId, head.id));
  const position = next?.position ?? (last ?? 0) + 1;
  await tx.update(boardColumn).set({ position: sql`${boardColumn.position} + 1` }).where(and(eq(boardColumn.boardId, head.id), gte(boardColumn.position, position)));
  const id = randomUUID();
  await tx.insert(boardColumn).values({ id, boardId: head.id, stage: edit.stage ?? edit.name.trim(), name: edit.name.trim(), part: partOf(edit.stateKind), position });
  await tx.insert(columnState).values({ boardId: head.id, columnId: id, stateId: edit.id });
}

/** Columns that are called what their state was called follow it. */
async function renameColumns(tx: Transaction, before: Workflow, edit: Extract<WorkflowEdit, { kind: "rename state" }>): Promise<void> {
  const old = before.states.find((s) => s.id === edit.stateId)!.name;
  const columns = await tx.select({ id: columnState.columnId }).from(columnState).where(eq(columnState.stateId, edit.stateId));
  if (columns.length === 0) return;
  const ids = columns.map((c) => c.id);
  await tx.update(boardColumn).set({ name: edit.name.trim() }).where(and(inArray(boardColumn.id, ids), eq(boardColumn.name, old)));
}

/** Tells open pages that the process changed; boards count a version too, so that two editors notice each other. */
export async function announceDesign(tx: Transaction, projectId: string): Promise<void> {
  await tx.update(board).set({ version: sql`${board.version} + 1` }).where(eq(board.projectId, projectId));
  await tx.insert(outbox).values({ projectId, at: Date.now(), kind: "design" });
}
