import { signedIn } from "@/app/answer";
import { flowContract } from "@/core/flow/contract";
import { readBand } from "@/server/flow/read";

export const GET = signedIn(flowContract.band, async (viewer, { params, query }) => ({
  ids: await readBand(viewer, params.key, query),
}));
