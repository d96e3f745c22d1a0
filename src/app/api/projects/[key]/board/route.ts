import { json, signedInRoute } from "@/app/problem";
import { readBoard } from "@/server/board/read";

export const GET = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await readBoard(viewer, key, new URL(request.url).searchParams.get("board"))),
);
