import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { freshCount } from "@/server/alerts/read";

export const GET = signedIn(alertsContract.count, async (viewer) => ({
  fresh: await freshCount(viewer),
}));
