import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { planContract } from "@/core/plan/contract";
import { readCalendarFeed } from "@/server/plan/calendar-feed";

export const GET = forAnyone(
  planContract.calendarFile,
  async ({ params }) =>
    new Response(await readCalendarFeed(params.token), {
      headers: {
        "Content-Type": "text/calendar; charset=utf-8",
        "Cache-Control": "private, no-store",
      },
    }),
  limited,
);
