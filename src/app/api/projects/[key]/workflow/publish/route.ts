import { json, readJson, signedInRoute } from "@/app/problem";
import { publishDraft } from "@/server/workflow/publish";
import { publishBody } from "@/server/workflow/request";

export const POST = signedInRoute(async (viewer, request) =>
  json(await publishDraft(viewer, await readJson(request, publishBody))),
);
