import { openRoute } from "@/app/problem";
import { workflowJsonSchema } from "@/core/formats/workflow-json";

/** The published schema of a workflow's JSON. */
export const GET = openRoute(async () =>
  Response.json(workflowJsonSchema(), {
    headers: { "Content-Type": "application/schema+json", "Cache-Control": "public, max-age=3600" },
  }),
);
