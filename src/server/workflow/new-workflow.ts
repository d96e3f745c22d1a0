import { cutText } from "@/core/formats/cut-text";
import { and, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { readScxml, type ImportedWorkflow } from "@/core/formats/scxml-read";
import { readWorkflowJson } from "@/core/formats/workflow-json";
import { FileProblem } from "@/core/formats/xml";
import { checkWorkflow } from "@/core/workflow/check";
import { copyOf } from "@/core/workflow/copy";
import { fromTemplate } from "@/core/workflow/template";
import { EMPTY } from "@/core/workflow/templates/empty";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import { SUB_TASKS } from "@/core/workflow/templates/sub-tasks";
import type { Workflow } from "@/core/workflow/workflow";
import { transact, type Reader } from "@/db/connection";
import { project, workflow, workflowDraft } from "@/db/schema";
import { loadVocabulary } from "../condition/vocabulary";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { announceDesign } from "./announce";
import { publishedWorkflow } from "./load";
import { publishFirst } from "./publish-first";
import { checkSurroundings } from "./surroundings";
import { v7 as newId } from "uuid";
import type { NewWorkflowRequest } from "@/core/workflow/request";
import type { MadeWorkflow } from "@/core/workflow/new-workflow";

const MOST_WORKFLOWS = 40;

/**
 * Adds a workflow to a project. Nobody is bound by it until an item type follows it. What would
 * trap items, such as a file of another program often does, becomes the draft of a workflow that is
 * nearly empty.
 */
export async function addWorkflow(
  viewer: Viewer,
  projectKey: string,
  request: NewWorkflowRequest,
): Promise<MadeWorkflow> {
  return transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const projectId = access.project.id;
    const [{ n }] = await tx
      .select({ n: sql<number>`count(*)::int` })
      .from(workflow)
      .where(and(eq(workflow.projectId, projectId), isNull(workflow.removedAt)));
    if (n >= MOST_WORKFLOWS)
      throw invalid(
        `A project has at most ${MOST_WORKFLOWS} workflows.`,
        "Change one that is there.",
      );
    const { workflow: wanted, taken, left } = await begun(tx, viewer, projectId, request);
    const made = { ...wanted, name: request.name || wanted.name, version: 1 };
    const around = await checkSurroundings(tx, projectId);
    const traps = checkWorkflow(made, around).filter((f) => f.severity === "trap");
    const isDraft = traps.length > 0;
    const first: Workflow = isDraft
      ? { ...fromTemplate(EMPTY, newId), id: made.id, name: made.name }
      : made;
    await publishFirst({ tx, viewer, projectId, made: first, summary: SUMMARY[request.from.kind] });
    if (isDraft)
      await tx.insert(workflowDraft).values({
        workflowId: made.id,
        definition: made,
        baseVersion: 1,
        revision: 1,
        byId: viewer.personId,
        at: Date.now(),
      });
    await announceDesign(tx, projectId, { kind: "workflow made", data: { workflowId: made.id } });
    return {
      workflowId: made.id,
      isDraft,
      taken,
      left: [...left, ...traps.map((t) => t.sentence)],
    };
  });
}

const SUMMARY: Record<NewWorkflowRequest["from"]["kind"], string> = {
  template: "started from a template",
  copy: "started as a copy",
  empty: "started empty",
  file: "read from a file",
};

async function begun(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
  { from }: NewWorkflowRequest,
): Promise<ImportedWorkflow> {
  if (from.kind === "file")
    return readWorkflowFile(from.text, await loadVocabulary(reader, projectId));
  if (from.kind === "empty") return { workflow: fromTemplate(EMPTY, newId), taken: [], left: [] };
  if (from.kind === "template") {
    const template = [...PROJECT_TEMPLATES, SUB_TASKS].find((t) => t.name === from.name);
    if (!template) throw invalid("There is no such template.", "Choose one from the list.");
    return { workflow: fromTemplate(template, newId), taken: [], left: [] };
  }
  const original = await readableWorkflow(reader, viewer, from.workflowId);
  return {
    workflow: copyOf(original, newId, `${cutText(original.name, 70)}, copy`),
    taken: [],
    left: [],
  };
}

/** A workflow of any project that this person may see. */
export async function readableWorkflow(
  reader: Reader,
  viewer: Viewer,
  workflowId: string,
): Promise<Workflow> {
  const [head] = await reader
    .select({ version: workflow.version, projectId: project.id })
    .from(workflow)
    .innerJoin(project, eq(project.id, workflow.projectId))
    .where(eq(workflow.id, workflowId));
  if (!head) throw notFound("workflow");
  await enterProject({ reader, viewer, where: { id: head.projectId }, action: "read project" });
  return publishedWorkflow(reader, workflowId, head.version);
}

/** Reads a workflow from a file of any kind that is understood, with ids of its own. */
export function readWorkflowFile(
  text: string,
  vocabulary: Parameters<typeof readScxml>[1],
): ImportedWorkflow {
  try {
    const isJson = /^\s*[{[]/.test(text);
    const read = isJson ? readWorkflowJson(text) : readScxml(text, vocabulary, newId);
    return { ...read, workflow: copyOf(read.workflow, newId) };
  } catch (error) {
    if (error instanceof FileProblem)
      throw invalid(
        error.message,
        "Nothing was changed. SCXML and this product's own JSON can be read.",
      );
    if (error instanceof z.ZodError)
      throw invalid(
        `The rules in this file do not hold together: ${error.issues[0].message}`,
        "Nothing was changed.",
      );
    throw error;
  }
}
