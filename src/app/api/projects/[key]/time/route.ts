import { signedIn } from "@/app/answer";
import { timeContract } from "@/core/time/contract";
import { readWeek } from "@/server/time/week";

export const GET = signedIn(timeContract.week, (viewer, { params, query }) =>
  readWeek(viewer, params.key, query),
);
