import { z } from "zod";
import { json, signedInRoute } from "@/app/problem";
import { searchItems } from "@/server/item/read";

const query = z.object({ q: z.string().max(200).default("") });

export const GET = signedInRoute(async (viewer, request) => {
  const { q } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
  return json(await searchItems(viewer, q.replaceAll("\u0000", "")));
});
