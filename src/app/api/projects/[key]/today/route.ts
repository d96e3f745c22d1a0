import { signedIn } from "@/app/answer";
import { todayContract } from "@/core/today/contract";
import { readToday } from "@/server/today/read";

export const GET = signedIn(todayContract.read, (viewer, { params }) =>
  readToday(viewer, params.key),
);
