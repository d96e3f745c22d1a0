import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { markRead, readNotices } from "@/server/alerts/notices";

export const GET = signedIn(alertsContract.read, (viewer) => readNotices(viewer));

export const POST = signedIn(alertsContract.mark, (viewer, { body }) => markRead(viewer, body.ids));
