import { json, signedInRoute } from "@/app/problem";
import { replayDraft, replayQuery } from "@/server/workflow/replay";

export const GET = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(
    await replayDraft(
      viewer,
      key,
      replayQuery.parse(Object.fromEntries(new URL(request.url).searchParams)),
    ),
  ),
);
