import { json, signedInRoute } from "@/app/problem";
import { readSummary } from "@/server/flow/summary";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readSummary(viewer, key)),
);
