import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { chooseAlerts, readAlertRules } from "@/server/alerts/rules";

export const GET = signedIn(alertsContract.rules, (viewer) => readAlertRules(viewer));

export const POST = signedIn(alertsContract.choose, (viewer, { body }) =>
  chooseAlerts(viewer, body),
);
