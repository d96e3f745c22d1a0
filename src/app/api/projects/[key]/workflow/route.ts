import { json, signedInRoute } from "@/app/problem";
import { readDesign } from "@/server/workflow/read";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readDesign(viewer, key)),
);
