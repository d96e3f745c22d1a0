import { json, readJson, signedInRoute } from "@/app/problem";
import { markRead, readBody, readNotices } from "@/server/alerts/notices";

export const GET = signedInRoute(async (viewer) => json(await readNotices(viewer)));

export const POST = signedInRoute(async (viewer, request) => {
  await markRead(viewer, (await readJson(request, readBody)).ids);
  return json({ read: true });
});
