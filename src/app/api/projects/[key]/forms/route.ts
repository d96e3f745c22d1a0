import { json, readJson, signedInRoute } from "@/app/problem";
import { editForm, formBody, readForms } from "@/server/intake/forms";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readForms(viewer, key)),
);

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await editForm(viewer, key, await readJson(request, formBody))),
);
