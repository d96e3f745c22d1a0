import { json, readJson, signedInRoute } from "@/app/problem";
import { startProject, startProjectBody } from "@/server/workflow/start-project";

export const POST = signedInRoute(async (viewer, request) =>
  json(await startProject(viewer, await readJson(request, startProjectBody)), 201),
);
