import { eq } from "drizzle-orm";
import { refuse, type Refusal } from "@/core/workflow/refusal";
import type { Workflow } from "@/core/workflow/workflow";
import { transact, type Transaction } from "@/db/connection";
import { workflow, workflowDraft } from "@/db/schema";
import { announce } from "../events/announce";
import { enterProject, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound, Refused } from "../refused";
import { publishedWorkflow } from "./load";
import type { DraftRequest } from "@/core/workflow/request";

export interface StoredDraft {
  definition: Workflow;
  baseVersion: number;
  revision: number;
  byId: string;
  at: number;
}

/** Locks a workflow against other leads who edit or publish it; people who move items go on. */
export async function lockWorkflow(
  tx: Transaction,
  viewer: Viewer,
  workflowId: string,
): Promise<{ access: ProjectAccess; version: number }> {
  const [head] = await tx.select().from(workflow).where(eq(workflow.id, workflowId)).for("update");
  if (!head || head.removedAt !== null) throw notFound("workflow");
  return {
    access: await enterProject({
      reader: tx,
      viewer,
      where: { id: head.projectId },
      action: "edit workflow",
    }),
    version: head.version,
  };
}

export async function readDraft(tx: Transaction, workflowId: string): Promise<StoredDraft | null> {
  const [row] = await tx
    .select()
    .from(workflowDraft)
    .where(eq(workflowDraft.workflowId, workflowId));
  return row ?? null;
}

/**
 * Somebody else stored the draft, or published, since this page read it: the page gets what is
 * stored and brings both together.
 */
export function changedMeanwhile(): Refusal {
  return refuse(
    "conflict",
    "Somebody else has changed this draft meanwhile.",
    "Your changes and theirs are being brought together.",
  );
}

/**
 * Stores a draft. Nobody is bound by it. `seenRevision` is what the page has last read: 0 where
 * there was no draft.
 * @returns the draft's new revision
 */
export async function saveDraft(
  viewer: Viewer,
  request: DraftRequest,
): Promise<{ revision: number; baseVersion: number }> {
  return transact(async (tx) => {
    const { access, version } = await lockWorkflow(tx, viewer, request.workflowId);
    const stored = await readDraft(tx, request.workflowId);
    // A draft of an older version must not undo what was published since.
    if (
      (stored?.revision ?? 0) !== request.seenRevision ||
      (stored?.baseVersion ?? version) !== request.baseVersion
    )
      throw new Refused(changedMeanwhile());
    const running = await publishedWorkflow(tx, request.workflowId, version);
    const definition: Workflow = { ...request.definition, id: running.id, version };
    const { baseVersion } = request;
    const revision = request.seenRevision + 1;
    const values = { definition, baseVersion, revision, byId: viewer.personId, at: Date.now() };
    await tx
      .insert(workflowDraft)
      .values({ workflowId: running.id, ...values })
      .onConflictDoUpdate({ target: workflowDraft.workflowId, set: values });
    await announce(tx, access.project.id, {
      kind: "workflow draft changed",
      data: { workflowId: running.id, revision },
    });
    return { revision, baseVersion };
  });
}

/** Throws a draft away; what runs stays as it is. */
export async function discardDraft(
  viewer: Viewer,
  workflowId: string,
  seenRevision: number,
): Promise<void> {
  await transact(async (tx) => {
    const { access } = await lockWorkflow(tx, viewer, workflowId);
    const stored = await readDraft(tx, workflowId);
    if ((stored?.revision ?? 0) !== seenRevision) throw new Refused(changedMeanwhile());
    await tx.delete(workflowDraft).where(eq(workflowDraft.workflowId, workflowId));
    await announce(tx, access.project.id, {
      kind: "workflow draft changed",
      data: { workflowId, revision: 0 },
    });
  });
}
