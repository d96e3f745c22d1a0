import { json, readJson, signedInRoute } from "@/app/problem";
import { editOwnField, fieldEditBody } from "@/server/item/own-fields";

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  await editOwnField(viewer, key, await readJson(request, fieldEditBody));
  return json({ stored: true });
});
