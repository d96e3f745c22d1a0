import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { ruleGround } from "@/server/alerts/own-rules";

export const GET = signedIn(alertsContract.ruleGround, (viewer, { query }) =>
  ruleGround(viewer, query.project),
);
