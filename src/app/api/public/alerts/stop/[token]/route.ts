import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { alertsContract } from "@/core/alerts/contract";
import { stopMailByToken } from "@/server/alerts/stop-mail";

export const POST = forAnyone(
  alertsContract.stopMail,
  ({ params }) => stopMailByToken(params.token),
  limited,
);
