import type { Viewer } from "@/server/people/viewer";
import type { Workflow } from "@/core/workflow/workflow";
import { discardDraft, saveDraft } from "@/server/workflow/draft";
import { publishDraft } from "@/server/workflow/publish";
import { readDesign } from "@/server/workflow/read";
import { INES } from "./people";

/** The running workflow of TIX's stories and bugs, as a draft would begin. */
export async function runningWorkflow(viewer: Viewer = INES): Promise<Workflow> {
  const { id, name, version, states, transitions } = (
    await readDesign(viewer, "TIX")
  ).workflows.find((w) => w.id === "tix-main")!;
  return { id, name, version, states, transitions };
}

export async function storeDraft(viewer: Viewer, definition: Workflow): Promise<number> {
  const design = await readDesign(INES, "TIX");
  const draft = design.drafts.find((d) => d.workflowId === definition.id);
  const baseVersion =
    draft?.baseVersion ?? design.workflows.find((w) => w.id === definition.id)!.version;
  return (
    await saveDraft(viewer, {
      workflowId: definition.id,
      seenRevision: draft?.revision ?? 0,
      baseVersion,
      definition,
    })
  ).revision;
}

/** Changes the running workflow and publishes the change. */
export async function publishChange(
  change: (workflow: Workflow) => Workflow,
  newStates: Record<string, string> = {},
  note = "",
): Promise<{ version: number; movedItems: number }> {
  const seenRevision = await storeDraft(INES, change(await runningWorkflow()));
  try {
    return await publishDraft(INES, { workflowId: "tix-main", seenRevision, newStates, note });
  } catch (error) {
    await discardDraft(INES, "tix-main", seenRevision);
    throw error;
  }
}
