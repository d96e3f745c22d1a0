import { json, readJson, signedInRoute } from "@/app/problem";
import { editType, typeEditBody } from "@/server/workflow/types";

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await editType(viewer, key, await readJson(request, typeEditBody))),
);
