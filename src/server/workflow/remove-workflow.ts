import { and, eq, inArray } from "drizzle-orm";
import { listWords } from "@/core/formats/list-words";
import type { WorkflowEdit } from "@/core/workflow/request";
import { transact, type Transaction } from "@/db/connection";
import { board, boardColumn, columnState, itemType, state, workflow } from "@/db/schema";
import { removeEmptyColumns } from "../board/remove-columns";
import { countInStates } from "../item/count";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { announceDesign } from "./announce";

/**
 * Takes a workflow out that nothing follows any more, or brings it back. Its versions stay: the
 * past is read by them.
 */
export async function editWorkflows(
  viewer: Viewer,
  projectKey: string,
  edit: WorkflowEdit,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const workflows = await tx
      .select()
      .from(workflow)
      .where(eq(workflow.projectId, project.id))
      .orderBy(workflow.id)
      .for("update");
    const wanted = workflows.find((w) => w.id === edit.id);
    if (!wanted) throw notFound("workflow");
    const workflowId = wanted.id;
    if (edit.kind === "bring back") {
      await tx.update(workflow).set({ removedAt: null }).where(eq(workflow.id, workflowId));
      return announceDesign(tx, project.id, {
        kind: "workflow brought back",
        data: { workflowId },
      });
    }
    if (workflows.filter((w) => w.removedAt === null).length === 1)
      throw invalid("It is the only workflow of this project.", "Add another one first.");
    await refuseWhereFollowed(tx, project.id, workflowId);
    await tx.update(workflow).set({ removedAt: now }).where(eq(workflow.id, workflowId));
    await takeOffBoards(tx, project.id, workflowId);
    await announceDesign(tx, project.id, { kind: "workflow taken out", data: { workflowId } });
  });
}

/** Nothing may follow it: no type of today, and no item of a type that was taken out. */
async function refuseWhereFollowed(
  tx: Transaction,
  projectId: string,
  workflowId: string,
): Promise<void> {
  const types = await tx
    .select()
    .from(itemType)
    .where(and(eq(itemType.projectId, projectId), eq(itemType.workflowId, workflowId)))
    .orderBy(itemType.position);
  const followers = types.filter((t) => t.removedAt === null).map((t) => t.name);
  if (followers.length > 0)
    throw invalid(
      `${listWords(followers, "and")} ${followers.length === 1 ? "follows" : "follow"} it.`,
      "Give what follows it another workflow first, in Types and fields.",
    );
  const states = await tx
    .select({ id: state.id })
    .from(state)
    .where(eq(state.workflowId, workflowId));
  const inStates = await countInStates(
    tx,
    states.map((s) => s.id),
  );
  const n = [...inStates.values()].reduce((sum, items) => sum + items, 0);
  if (n > 0)
    throw invalid(
      `${n === 1 ? "1 item" : `${n} items`} of a type that was taken out still ${n === 1 ? "follows" : "follow"} it.`,
      "Bring that type back and give it another workflow first.",
    );
}

/** Its states leave the boards; a column that shows nothing else goes with them. */
async function takeOffBoards(
  tx: Transaction,
  projectId: string,
  workflowId: string,
): Promise<void> {
  const boards = tx.select({ id: board.id }).from(board).where(eq(board.projectId, projectId));
  const states = tx.select({ id: state.id }).from(state).where(eq(state.workflowId, workflowId));
  const left = await tx
    .delete(columnState)
    .where(and(inArray(columnState.boardId, boards), inArray(columnState.stateId, states)))
    .returning({ columnId: columnState.columnId });
  const emptied = left.map((c) => c.columnId);
  await removeEmptyColumns(tx, inArray(boardColumn.id, emptied));
}
