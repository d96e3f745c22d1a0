import { json, readJson, signedInRoute } from "@/app/problem";
import { editWorth, readWorth, worthBody } from "@/server/intake/worth";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readWorth(viewer, key)),
);

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  await editWorth(viewer, key, await readJson(request, worthBody, 1024 * 1024));
  return json({ stored: true });
});
