import { json, readJson, signedInRoute } from "@/app/problem";
import { boxBody, editBox } from "@/server/plan/boxes";

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  await editBox(viewer, key, await readJson(request, boxBody));
  return json({ stored: true });
});
