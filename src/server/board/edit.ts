import { and, eq } from "drizzle-orm";
import { limitOfState, stateLimitOf, type ColumnLimit } from "@/core/board/limit";
import type { ColumnEditRequest } from "@/core/board/request";
import { refuse } from "@/core/workflow/refusal";
import { same } from "@/core/workflow/same";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import { transact, type Transaction } from "@/db/connection";
import { board, boardColumn, columnState, state, workflow, workflowDraft } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound, Refused } from "../refused";
import { announceDesign } from "../workflow/announce";
import { checkLimitedScope } from "./boards";
import { limitOf, limitsInForce, ownerOfLimit, setLimit } from "./limits";

/**
 * Changes the limit that a column shows, or that one of its states has. Items that are beyond a new
 * maximum stay where they are; the board shows them as over.
 */
export async function editColumn(viewer: Viewer, request: ColumnEditRequest): Promise<void> {
  await transact(async (tx) => {
    const [column] = await tx
      .select()
      .from(boardColumn)
      .where(eq(boardColumn.id, request.columnId));
    if (!column) throw notFound("column");
    const [seen] = await tx.select().from(board).where(eq(board.id, column.boardId));
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { id: seen.projectId },
      action: "edit board",
    });
    const stateIds = await statesOf(tx, column.id);
    if (request.stateId !== undefined && !stateIds.includes(request.stateId))
      throw notFound("state in this column");
    const shown = request.stateId === undefined ? stateIds : [request.stateId];
    const owner = ownerOfLimit(project.id, { id: column.id, stateIds: shown });
    // As whoever edits or publishes the workflow does: first that, then the board.
    const drafted = owner.kind === "state" ? await lockWorkflowOf(tx, owner.id) : null;
    const [head] = await tx.select().from(board).where(eq(board.id, column.boardId)).for("update");
    if (head.version !== request.seenVersion)
      throw new Refused(
        refuse(
          "conflict",
          "Somebody else has changed this board meanwhile.",
          "Look at it as it is now, then make your change again.",
        ),
      );
    const was = (await limitsInForce(tx, owner.kind, [owner.id])).get(owner.id);
    await setLimit(tx, owner, limitOf(request));
    if (drafted !== null)
      await carryIntoDraft(tx, drafted, { stateId: owner.id, was, is: limitOf(request) });
    else await checkLimitedScope(tx, head.id);
    await announceDesign(tx, project.id, { kind: "board changed", data: { boardId: head.id } });
  });
}

async function statesOf(tx: Transaction, columnId: string): Promise<StateId[]> {
  const rows = await tx
    .select({ id: columnState.stateId })
    .from(columnState)
    .where(eq(columnState.columnId, columnId));
  return rows.map((r) => r.id);
}

async function lockWorkflowOf(tx: Transaction, stateId: StateId): Promise<string> {
  const [{ id }] = await tx
    .select({ id: workflow.id })
    .from(workflow)
    .innerJoin(state, and(eq(state.workflowId, workflow.id), eq(state.id, stateId)))
    .for("update", { of: workflow });
  return id;
}

/**
 * A draft that has not changed a state's limit has the one that is in force: publishing it must not
 * bring the older one back.
 */
async function carryIntoDraft(
  tx: Transaction,
  workflowId: string,
  { stateId, was, is }: { stateId: StateId; was: ColumnLimit | undefined; is: ColumnLimit },
): Promise<void> {
  const [draft] = await tx
    .select()
    .from(workflowDraft)
    .where(eq(workflowDraft.workflowId, workflowId));
  const drafted = draft?.definition.states.find((s) => s.id === stateId);
  const known = was ? stateLimitOf(was) : null;
  if (!drafted || !same(limitOfState(drafted.limit), limitOfState(known))) return;
  const definition: Workflow = {
    ...draft.definition,
    states: draft.definition.states.map((s) =>
      s.id === stateId ? { ...s, limit: stateLimitOf(is) } : s,
    ),
  };
  await tx
    .update(workflowDraft)
    .set({ definition, revision: draft.revision + 1 })
    .where(eq(workflowDraft.workflowId, workflowId));
}
