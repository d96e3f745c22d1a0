import { signedIn } from "@/app/answer";
import { todayContract } from "@/core/today/contract";
import { putThingToRest } from "@/server/today/small-things";

export const POST = signedIn(todayContract.rest, (viewer, { body }) =>
  putThingToRest(viewer, body),
);
