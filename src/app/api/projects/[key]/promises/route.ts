import { json, readJson, signedInRoute } from "@/app/problem";
import { readPromises } from "@/server/intake/promises";
import { editRules, rulesBody } from "@/server/intake/rules";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readPromises(viewer, key)),
);

/** Changes what a project promises, when it works, or how it weighs requests. */
export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await editRules(viewer, key, await readJson(request, rulesBody))),
);
