import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { alertsContract } from "@/core/alerts/contract";
import { readFeed } from "@/server/alerts/feed";

export const GET = forAnyone(
  alertsContract.feed,
  async ({ params }) =>
    new Response(await readFeed(params.token), {
      headers: {
        "Content-Type": "application/atom+xml; charset=utf-8",
        "Cache-Control": "private, no-store",
      },
    }),
  limited,
);
