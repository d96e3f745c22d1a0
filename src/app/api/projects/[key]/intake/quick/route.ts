import { json, readJson, signedInRoute } from "@/app/problem";
import { quickBody, quickReport } from "@/server/intake/import";

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await quickReport(viewer, key, await readJson(request, quickBody)), 201),
);
