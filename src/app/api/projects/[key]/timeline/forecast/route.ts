import { signedIn } from "@/app/answer";
import { timelineContract } from "@/core/timeline/contract";
import { readTimelineForecast } from "@/server/timeline/read";

export const GET = signedIn(timelineContract.forecast, (viewer, { params }) =>
  readTimelineForecast(viewer, params.key),
);
