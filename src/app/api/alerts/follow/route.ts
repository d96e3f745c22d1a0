import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { setFollow } from "@/server/alerts/follow";

export const POST = signedIn(alertsContract.follow, (viewer, { body }) => setFollow(viewer, body));
