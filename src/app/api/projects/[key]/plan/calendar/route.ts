import { signedIn } from "@/app/answer";
import { planContract } from "@/core/plan/contract";
import { readCalendar } from "@/server/plan/calendar";

export const GET = signedIn(planContract.calendar, (viewer, { params, query }) =>
  readCalendar(viewer, params.key, query.day),
);
