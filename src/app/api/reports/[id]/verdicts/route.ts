import { z } from "zod";
import { json, readJson, signedInRoute } from "@/app/problem";
import { judgeReport, undoVerdict } from "@/server/intake/judge";
import { verdictBody } from "@/server/intake/request";

export const POST = signedInRoute<{ id: string }>(async (viewer, request, { id }) =>
  json(await judgeReport(viewer, z.uuid().parse(id), await readJson(request, verdictBody))),
);

const undoBody = z.object({ verdictId: z.uuid() });

/** Undoes the latest verdict. */
export const DELETE = signedInRoute<{ id: string }>(async (viewer, request, { id }) =>
  json(
    await undoVerdict(viewer, z.uuid().parse(id), (await readJson(request, undoBody)).verdictId),
  ),
);
