import { z } from "zod";
import { workflowSchema } from "@/core/workflow/definition";
import type { Workflow } from "@/core/workflow/workflow";

/** What was there, one after the other, and which of it stands now. */
export interface Steps {
  list: Workflow[];
  at: number;
}

/** So many steps outlast a reload. */
const MOST_KEPT = 30;
const keyOf = (workflowId: string) => `designer-steps ${workflowId}`;
const stepsSchema = z.object({
  list: z.array(workflowSchema).min(1),
  at: z.number().int().min(0),
});

/** Keeps the steps of a draft in this tab, so that they can be undone after a reload too. */
export function keepSteps(workflowId: string, { list, at }: Steps): void {
  const from = Math.max(0, Math.min(at, list.length - 1) - MOST_KEPT);
  const kept = { list: list.slice(from, from + 2 * MOST_KEPT), at: at - from };
  try {
    sessionStorage.setItem(keyOf(workflowId), JSON.stringify(kept));
  } catch {
    // Without room there is only the draft itself, which the server keeps.
    sessionStorage.removeItem(keyOf(workflowId));
  }
}

/** The steps that were kept in this tab; null where there are none that can be read. */
export function keptSteps(workflowId: string): Steps | null {
  try {
    const read = stepsSchema.safeParse(JSON.parse(sessionStorage.getItem(keyOf(workflowId)) ?? ""));
    return read.success && read.data.at < read.data.list.length ? read.data : null;
  } catch {
    return null;
  }
}
