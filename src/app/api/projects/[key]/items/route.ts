import { z } from "zod";
import { json, readJson, signedInRoute } from "@/app/problem";
import { itemsById } from "@/server/item/read";

const body = z.object({ ids: z.array(z.uuid()).max(5_000) });

/** The items behind a figure. A query with a body, because a figure can stand for hundreds. */
export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await itemsById(viewer, key, (await readJson(request, body)).ids)),
);
