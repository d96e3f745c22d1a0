import { json, signedInRoute } from "@/app/problem";
import { readVersion } from "@/server/workflow/read";
import { versionQuery } from "@/server/workflow/request";

export const GET = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(
    await readVersion(
      viewer,
      key,
      versionQuery.parse(Object.fromEntries(new URL(request.url).searchParams)),
    ),
  ),
);
