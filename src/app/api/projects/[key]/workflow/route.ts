import { json, readJson, signedInRoute } from "@/app/problem";
import { editProjectWorkflow } from "@/server/workflow/edit";
import { readDesign } from "@/server/workflow/read";
import { workflowEditBody } from "@/server/workflow/request";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) => json(await readDesign(viewer, key)));

export const POST = signedInRoute(async (viewer, request) => json(await editProjectWorkflow(viewer, await readJson(request, workflowEditBody))));
