import { and, eq } from "drizzle-orm";
import { type z } from "zod";
import { writeMermaid } from "@/core/formats/mermaid";
import { writeScxml } from "@/core/formats/scxml-write";
import { writeWorkflowJson } from "@/core/formats/workflow-json";
import { writeSvg } from "@/core/formats/workflow-svg";
import { workflowSchema } from "@/core/workflow/definition";
import { database } from "@/db/connection";
import { workflow, workflowDraft } from "@/db/schema";
import { loadVocabulary } from "../condition/vocabulary";
import { withLimitsInForce } from "../board/limits";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { publishedWorkflow } from "./load";
import { type exportQuery } from "@/core/workflow/request";

export interface ExportedFile {
  name: string;
  mediaType: string;
  text: string;
}

const MEDIA_TYPES = {
  scxml: "application/scxml+xml",
  json: "application/json",
  svg: "image/svg+xml",
  mermaid: "text/plain",
} as const;
const ENDINGS = { scxml: "scxml", json: "json", svg: "svg", mermaid: "mmd" } as const;

/** A workflow as a file in an open format. */
export async function exportWorkflow(
  viewer: Viewer,
  projectKey: string,
  query: z.infer<typeof exportQuery>,
): Promise<ExportedFile> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: query.which === "draft" ? "edit workflow" : "read project",
  });
  const [head] = await db
    .select({ version: workflow.version, draft: workflowDraft.definition })
    .from(workflow)
    .leftJoin(workflowDraft, eq(workflowDraft.workflowId, workflow.id))
    .where(and(eq(workflow.id, query.workflow), eq(workflow.projectId, project.id)));
  if (!head) throw notFound("workflow");
  const draft = query.which === "draft" ? workflowSchema.safeParse(head.draft).data : undefined;
  const definition =
    draft ??
    (await withLimitsInForce(db, await publishedWorkflow(db, query.workflow, head.version)));
  const write = {
    scxml: async () => writeScxml(definition, await loadVocabulary(db, project.id)),
    json: async () => writeWorkflowJson(definition),
    svg: async () => writeSvg(definition),
    mermaid: async () => writeMermaid(definition),
  };
  const name =
    definition.name
      .normalize("NFKD")
      .split(/[^\w]/)
      .filter(Boolean)
      .join("-")
      .slice(0, 60)
      .toLowerCase() || "workflow";
  return {
    name: `${name}.${ENDINGS[query.format]}`,
    mediaType: MEDIA_TYPES[query.format],
    text: await write[query.format](),
  };
}
