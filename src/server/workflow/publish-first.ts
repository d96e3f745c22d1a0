import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { state, workflow, workflowVersion } from "@/db/schema";
import { setStateLimits } from "../board/limits";
import type { Viewer } from "../people/viewer";

/** Stores a workflow that was made just now as its first version. */
export async function publishFirst({
  tx,
  viewer,
  projectId,
  made,
  summary,
}: {
  tx: Transaction;
  viewer: Viewer;
  projectId: string;
  made: Workflow;
  summary: string;
}): Promise<void> {
  await tx
    .insert(workflow)
    .values({ id: made.id, projectId, name: made.name, version: made.version });
  await tx.insert(state).values(
    made.states.map(({ id, name, kind, stage, position, byReviewer }) => ({
      id,
      name,
      kind,
      stage,
      position,
      byReviewer,
      workflowId: made.id,
    })),
  );
  await tx.insert(workflowVersion).values({
    workflowId: made.id,
    version: made.version,
    definition: made,
    at: Date.now(),
    byId: viewer.personId,
    summary,
  });
  await setStateLimits(tx, projectId, made);
}
