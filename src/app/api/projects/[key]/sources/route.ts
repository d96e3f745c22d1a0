import { json, readJson, signedInRoute } from "@/app/problem";
import { editSource, readSources, sourceBody } from "@/server/events/sources";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readSources(viewer, key)),
);

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await editSource(viewer, key, await readJson(request, sourceBody))),
);
