import { json, signedInRoute } from "@/app/problem";
import { bandQuery, flowQuery, readBand, readLearn } from "@/server/flow/read";

/**
 * All flow measures, or with `state` and `day` the ids of the items behind a point of the
 * cumulative flow diagram.
 */
export const GET = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  const search = Object.fromEntries(new URL(request.url).searchParams);
  const query = flowQuery.parse(search);
  if ("state" in search)
    return json({ ids: await readBand(viewer, key, query, bandQuery.parse(search)) });
  return json(await readLearn(viewer, key, query));
});
