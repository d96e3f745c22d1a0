import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { setMailAbout } from "@/server/alerts/rules";

export const POST = signedIn(alertsContract.mailAbout, (viewer, { body }) =>
  setMailAbout(viewer, body),
);
