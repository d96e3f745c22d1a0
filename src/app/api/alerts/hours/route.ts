import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { setHours } from "@/server/alerts/hours";

export const POST = signedIn(alertsContract.setHours, (viewer, { body }) => setHours(viewer, body));
