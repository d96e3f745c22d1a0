import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { actOnOwnRule } from "@/server/alerts/rules";

export const POST = signedIn(alertsContract.ownRule, (viewer, { body }) =>
  actOnOwnRule(viewer, body),
);
