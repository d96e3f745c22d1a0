import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { actOnAlerts } from "@/server/alerts/act";
import { readAlerts } from "@/server/alerts/read";

export const GET = signedIn(alertsContract.read, (viewer, { query }) => readAlerts(viewer, query));

export const POST = signedIn(alertsContract.act, (viewer, { body }) => actOnAlerts(viewer, body));
