import { json, signedInRoute } from "@/app/problem";
import { readItem } from "@/server/item/read";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readItem(viewer, key)),
);
