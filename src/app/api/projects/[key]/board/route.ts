import { json, signedInRoute } from "@/app/problem";
import { readBoard } from "@/server/board/read";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) => json(await readBoard(viewer, key)));
