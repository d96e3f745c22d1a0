import { counted } from "./counted";
import { z } from "zod";
import { workflowSchema } from "@/core/workflow/definition";
import type { Workflow } from "@/core/workflow/workflow";
import type { ImportedWorkflow } from "./scxml-read";
import { FileProblem, LARGEST_FILE } from "./xml";

/** Names the format and its version, so that later versions can tell. */
export const WORKFLOW_FORMAT = "urn:zigzag-lane:workflow:1";

/** A workflow as JSON, in the form that `workflowJsonSchema` describes. */
export function writeWorkflowJson(workflow: Workflow): string {
  return `${JSON.stringify({ format: WORKFLOW_FORMAT, workflow }, null, 2)}\n`;
}

/**
 * Reads a workflow's JSON.
 * @throws FileProblem when it is too large, no JSON, or no workflow
 */
export function readWorkflowJson(text: string): ImportedWorkflow {
  if (text.length > LARGEST_FILE) throw new FileProblem("The file is larger than 5 MB.");
  let value: { format?: unknown; workflow?: unknown };
  try {
    value = JSON.parse(text) as typeof value;
  } catch (error) {
    throw new FileProblem(`This is no JSON: ${(error as Error).message.slice(0, 160)}.`);
  }
  if (value === null || typeof value !== "object" || value.format !== WORKFLOW_FORMAT)
    throw new FileProblem(`This JSON is no workflow: its “format” is not ${WORKFLOW_FORMAT}.`);
  const parsed = workflowSchema.safeParse(value.workflow);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new FileProblem(
      `The workflow in this file does not hold together: ${issue.path.join(".") || "workflow"}: ${issue.message}`,
    );
  }
  return {
    workflow: parsed.data,
    taken: [
      `All ${counted(parsed.data.states.length, "state")} and ${counted(parsed.data.transitions.length, "move")}, with their rules.`,
    ],
    left: [],
  };
}

/** The JSON Schema (draft 2020-12) of a workflow's JSON. */
export function workflowJsonSchema(): object {
  const document = z.object({ format: z.literal(WORKFLOW_FORMAT), workflow: workflowSchema });
  return {
    $id: WORKFLOW_FORMAT,
    title: "A workflow of Zigzag Lane",
    ...z.toJSONSchema(document, { io: "input", unrepresentable: "any", reused: "ref" }),
  };
}
