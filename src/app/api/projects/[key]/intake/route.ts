import { json, signedInRoute } from "@/app/problem";
import { readDesk } from "@/server/intake/desk";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readDesk(viewer, key)),
);
