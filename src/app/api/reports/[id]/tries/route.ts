import { json, readJson, signedInRoute } from "@/app/problem";
import { recordReproduction, reproductionBody } from "@/server/intake/reproductions";

export const POST = signedInRoute<{ id: string }>(async (viewer, request, { id }) => {
  await recordReproduction(viewer, id, await readJson(request, reproductionBody));
  return json({ stored: true });
});
