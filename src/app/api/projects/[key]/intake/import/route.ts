import { json, readJson, signedInRoute } from "@/app/problem";
import { importBody, importReports } from "@/server/intake/import";

const LARGEST_PART = 6 * 1024 * 1024;

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await importReports(viewer, key, await readJson(request, importBody, LARGEST_PART))),
);
