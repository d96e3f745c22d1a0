import { and, eq } from "drizzle-orm";
import { savedChange, type DesignChange } from "@/core/workflow/design-change";
import {
  boundsOf,
  limitSentence,
  limitOfState,
  stateLimitOf,
  type ColumnLimit,
} from "@/core/board/limit";
import type { LimitCounting } from "@/core/board/limit-counting";
import type { LimitRequest, PersonLimitRequest } from "@/core/board/request";
import { same } from "@/core/workflow/same";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import { transact, type Transaction } from "@/db/connection";
import {
  board,
  boardColumn,
  columnState,
  membership,
  person,
  state,
  workflow,
  workflowDraft,
} from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import { checkLimitedScope, lockSeenBoard } from "./boards";
import { limitsInForce, ownerOfLimit, setLimit, type LimitOwner } from "./limits";

/**
 * Changes a limit of a board: of a column, of one of its states, of all that is in progress, of a
 * part of any of these. Items that are beyond a new maximum stay where they are; the board shows
 * them as over.
 */
export async function editLimit(
  viewer: Viewer,
  projectKey: string,
  request: LimitRequest,
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit board",
    });
    const owner = await ownerMeant(tx, project.id, request);
    // As whoever edits or publishes the workflow does: first that, then the board.
    const drafted = owner.kind === "state" ? await lockWorkflowOf(tx, owner.id) : null;
    const { boardId: id, seenVersion } = request;
    const head = await lockSeenBoard(tx, project.id, { id, seenVersion });
    const was = (await limitsInForce(tx, owner.kind, [owner.id])).get(owner.id);
    const { unit, level, fixedDatePasses } = request;
    const counting = { unit, level, fixedDatePasses };
    await setLimit(tx, owner, { ...boundsOf(request), ...counting }, viewer.personId);
    await keepDesignChange(
      tx,
      { projectId: project.id, byId: viewer.personId },
      limitChange(await nameOfOwner(tx, owner), request.of === null ? was : undefined, request),
    );
    if (drafted !== null)
      await carryIntoDraft(tx, drafted, { stateId: owner.id, was, is: request });
    else await checkLimitedScope(tx, head.id);
    await announceDesign(tx, project.id, { kind: "board changed", data: { boardId: head.id } });
  });
}

/** What a limit is asked for, where it is there. */
async function ownerMeant(
  tx: Transaction,
  projectId: string,
  { boardId, on, of }: LimitRequest,
): Promise<LimitOwner> {
  if (on.kind === "board") return { projectId, kind: "board", id: boardId, of };
  const [column] = await tx
    .select()
    .from(boardColumn)
    .where(and(eq(boardColumn.id, on.columnId), eq(boardColumn.boardId, boardId)));
  if (!column) throw notFound("column");
  if (of !== null) return { projectId, kind: "column", id: column.id, of };
  const stateIds = await statesOf(tx, column.id);
  if (on.stateId !== undefined && !stateIds.includes(on.stateId))
    throw notFound("state in this column");
  const shown = on.stateId === undefined ? stateIds : [on.stateId];
  return ownerOfLimit(projectId, { id: column.id, stateIds: shown });
}

/** Changes how much somebody of a project may have in their hands, over all projects. */
export async function editPersonLimit(
  viewer: Viewer,
  projectKey: string,
  { personId, ...limit }: PersonLimitRequest,
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit board",
    });
    const theirs = await tx
      .select({ projectId: membership.projectId })
      .from(membership)
      .where(eq(membership.personId, personId));
    if (!theirs.some((one) => one.projectId === project.id)) throw notFound("person");
    const owner = { projectId: null, kind: "person", id: personId } as const;
    const was = (await limitsInForce(tx, "person", [personId])).get(personId);
    await setLimit(tx, owner, limit, viewer.personId);
    const change = limitChange(await nameOfOwner(tx, owner), was, limit);
    for (const { projectId } of theirs)
      await keepDesignChange(tx, { projectId, byId: viewer.personId }, change);
    for (const { projectId } of theirs)
      await announceDesign(tx, projectId, { kind: "board changed", data: { boardId: null } });
  });
}

/** What a limit was and is, in words. */
const limitChange = (
  name: string,
  was: AskedLimit | undefined,
  is: AskedLimit,
): DesignChange | null =>
  savedChange(
    { area: "limits", what: `the limit of ${name}` },
    { limit: was ? limitSentence(was) : null },
    { limit: is.min === null && is.max === null ? null : limitSentence(is) },
    { limit: "limit" },
  );

/** What has a limit, by name. */
async function nameOfOwner(tx: Transaction, { kind, id, of }: LimitOwner): Promise<string> {
  const part = of ? `, for ${of.value}` : "";
  if (kind === "column") {
    const [row] = await tx.select().from(boardColumn).where(eq(boardColumn.id, id));
    return `${row.stage} ${row.name}`.trim() + part;
  }
  const table = { state, board, person }[kind];
  const [row] = await tx.select({ name: table.name }).from(table).where(eq(table.id, id));
  return row.name + part;
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

type AskedLimit = ColumnLimit & Partial<LimitCounting>;

/**
 * A draft that has not changed a state's limit has the one that is in force: publishing it must not
 * bring the older one back.
 */
async function carryIntoDraft(
  tx: Transaction,
  workflowId: string,
  { stateId, was, is }: { stateId: StateId; was: AskedLimit | undefined; is: AskedLimit },
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
