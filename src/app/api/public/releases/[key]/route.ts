import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { releaseContract } from "@/core/ship/release/contract";
import { readReleaseFeed } from "@/server/ship/release/public-releases";

export const GET = forAnyone(
  releaseContract.feed,
  async ({ params }) =>
    new Response(await readReleaseFeed(params.key.toUpperCase()), {
      headers: {
        "Content-Type": "application/atom+xml; charset=utf-8",
        "Cache-Control": "public, max-age=300",
      },
    }),
  limited,
);
