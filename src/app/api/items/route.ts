import { json, readJson, signedInRoute } from "@/app/problem";
import { createItem } from "@/server/item/create";
import { createItemBody } from "@/server/item/request";

export const POST = signedInRoute(async (viewer, request) =>
  json(await createItem(viewer, await readJson(request, createItemBody)), 201),
);
