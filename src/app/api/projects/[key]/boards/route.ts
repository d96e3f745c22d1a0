import { json, readJson, signedInRoute } from "@/app/problem";
import { boardBody, editBoards } from "@/server/board/boards";

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  await editBoards(viewer, key, await readJson(request, boardBody));
  return json({ stored: true });
});
