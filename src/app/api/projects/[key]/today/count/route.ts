import { signedIn } from "@/app/answer";
import { todayContract } from "@/core/today/contract";
import { readTodayCount } from "@/server/today/read";

export const GET = signedIn(todayContract.count, (viewer, { params }) =>
  readTodayCount(viewer, params.key),
);
