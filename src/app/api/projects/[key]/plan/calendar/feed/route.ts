import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { endCalendarFeed, makeCalendarFeed } from "@/server/plan/calendar-feed";

export const POST = signedIn(planContract.makeCalendarFeed, (viewer, { params, body }) =>
  makeCalendarFeed(viewer, params.key, body.of),
);

export const DELETE = signedIn(planContract.endCalendarFeed, (viewer, { params, query }) =>
  endCalendarFeed(viewer, params.key, query.of),
);
