import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { tryRule } from "@/server/alerts/try-rule";

export const POST = signedIn(alertsContract.tryRule, (viewer, { body }) =>
  tryRule(viewer, body.rule),
);
