import { json, readJson, signedInRoute } from "@/app/problem";
import { commandItem } from "@/server/item/command";
import { itemCommandBody } from "@/server/item/request";

/** The one door for commands on items. */
export const POST = signedInRoute(async (viewer, request) =>
  json(await commandItem(viewer, await readJson(request, itemCommandBody))),
);
