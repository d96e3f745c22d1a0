import { z } from "zod";
import { json, signedInRoute } from "@/app/problem";
import { readReport } from "@/server/intake/desk";

export const GET = signedInRoute<{ id: string }>(async (viewer, _request, { id }) =>
  json(await readReport(viewer, z.uuid().parse(id))),
);
